"""python3 -m tools.build: packages and front end for a server, without a database."""

from __future__ import annotations

import sys

from tools.console import run_main, say
from tools.machine import (
    REPORT_LIBRARIES,
    front_build,
    local_folder,
    python_packages,
    system_packages,
)


def main(_: list[str]) -> int:
    local_folder()
    system_packages(REPORT_LIBRARIES)
    python_packages("run")
    front_build()
    say("Built.")
    return 0


if __name__ == "__main__":
    run_main(main, sys.argv[1:])
