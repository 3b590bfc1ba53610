"""How long a large shop takes to list, search and open, and in how many queries.

python manage.py generate        once: a shop of 100,000 inspections in the running database
python -m bench.finding          the median of server time for each question
"""

from __future__ import annotations

import os
import time
from statistics import median, quantiles

import django

ROUNDS = 25


def main() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    django.setup()
    from django.db import connection
    from django.db.models import Count
    from django.test import Client
    from django.test.utils import CaptureQueriesContext, setup_test_environment

    from server.inspections.models import Inspection
    from server.shops.models import Shop

    setup_test_environment()
    shop = Shop.objects.annotate(size=Count("inspections")).latest("size")
    user = shop.people.first()
    assert user is not None
    client = Client()
    client.force_login(user)
    rows = Inspection.objects.visible_to(user)
    some = rows[len(rows[:1000]) // 2]
    questions = {
        "list, newest": "/api/inspections",
        "list, page 1000": "/api/inspections?page=1000",
        "search, common word": "/api/inspections?q=launch",
        "search, rare word": f"/api/inspections?q={some.engine.identifier}",
        "search, no hit": "/api/inspections?q=zeppelin",
        "by grade": "/api/inspections?grade=D",
        "by fault": "/api/inspections?fault=exhaust-valve-sealing",
        "by inspector and dates": f"/api/inspections?inspector={user.pk}&since=2020-01-01",
        "fault, grade and word": "/api/inspections?fault=plug-worn&grade=B&q=teal",
        "to look at again": "/api/inspections?due=true",
        "engines, search": "/api/engines?q=bittern",
        "open one": f"/api/inspections/{some.pk}",
    }
    print(f"{rows.count()} inspections in the shop")
    print("question                     median       p95   queries")
    for name, address in questions.items():
        client.get(address)
        taken = []
        for _ in range(ROUNDS):
            started = time.perf_counter()
            answer = client.get(address)
            taken.append(1e3 * (time.perf_counter() - started))
            assert answer.status_code == 200, answer.content[:200]
        with CaptureQueriesContext(
            connection,
        ) as asked:
            client.get(address)
        p95 = quantiles(taken, n=20)[-1]
        print(f"{name:26s} {median(taken):6.1f} ms {p95:6.1f} ms {len(asked):6d}")


if __name__ == "__main__":
    main()
