"""How long it takes to weigh a shop's inspections again by new rules, by the number of workers.

    python -m bench.reweigh [--inspections 400] [--workers 1 2]

On the database that DATABASE_URL names, which should be nobody's; adds a shop for the purpose and
takes it away again. Workers are processes, as in operation, each ending when nothing is left.
"""

from __future__ import annotations

import argparse
import subprocess
import sys
import time

import django

from bench.speed import full_record

WORK = [sys.executable, "manage.py", "db_worker", "--batch", "--interval", "0"]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--inspections", type=int, default=400)
    parser.add_argument("--workers", type=int, nargs="+", default=[1, 2])
    asked = parser.parse_args()
    django.setup()
    from django.core.management import call_command

    from core.document import check_document, write_document
    from server.inspections.models import Inspection
    from server.inspections.services import import_document
    from server.shops.models import Shop

    shop = Shop.objects.create(name="Weighed again")
    try:
        for number in range(asked.inspections):
            made = full_record(8, alike=False)
            made["engine"] |= {"title": str(number), "compression_ratio": 8 + number / 200}
            data = write_document(check_document(made))
            import_document(shop=shop, by=None, data=data)
        for workers in asked.workers:
            Inspection.objects.filter(shop=shop).update(rules="older")
            call_command("reweigh")
            begun = time.monotonic()
            running = [
                subprocess.Popen(WORK, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
                for _ in range(workers)
            ]
            for one in running:
                one.wait()
            spent = time.monotonic() - begun
            left = Inspection.objects.filter(shop=shop, rules="older").count()
            each = asked.inspections / spent
            print(f"{workers} workers: {spent:.1f} s, {each:.1f} inspections a second, {left} left")
    finally:
        shop.delete()


if __name__ == "__main__":
    main()
