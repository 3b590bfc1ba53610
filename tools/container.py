"""python3 -m tools.container FOLDER: deploy/Containerfile where no container engine runs.

FOLDER is a bare Debian, as `debootstrap --variant=minbase bookworm FOLDER` makes it. Each step is
run in it as root with chroot, then the application is started as the file says, against
DATABASE_URL of the environment, until it answers that it is ready.
"""

from __future__ import annotations

import argparse
import json
import os
import re
import shutil
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from tools.console import Stop, run_main, say
from tools.machine import ROOT

FILE = ROOT / "deploy" / "Containerfile"
# Where this machine's own package managers look; a container's builder would pass the like.
OWN_WAYS = (
    "etc/apt", "etc/pip.conf", "etc/xdg/pip", "etc/npmrc", "root/.npmrc", "root/.config/pip",
    "usr/local/share/ca-certificates", "etc/resolv.conf",
)  # fmt: skip
READY = "http://127.0.0.1:8020/readyz"
PATIENCE_S = 60


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="tools.container", description=__doc__)
    parser.add_argument("folder", type=Path)
    folder = parser.parse_args(arguments).folder
    if os.geteuid() != 0 or not (folder / "etc" / "debian_version").exists():
        raise Stop("as root, and with a folder that holds a bare Debian")
    for place in OWN_WAYS:
        _copy(Path("/") / place, folder / place)
    with _mounted(folder):
        started = _steps(folder)
        return _answers(started)


def _steps(folder: Path) -> list[str]:
    """Run every step; returns the command that starts the application."""
    place, environment, user, start = "/", dict[str, str](), "0", ""
    for name, rest in instructions(FILE.read_text()):
        if name == "RUN":
            say(f"RUN {rest[:70]}")
            done = subprocess.run(_inside(folder, place, environment, user, rest))
            if done.returncode:
                raise Stop(f"this step failed: {rest}")
        elif name == "WORKDIR":
            place = rest
            (folder / rest.lstrip("/")).mkdir(parents=True, exist_ok=True)
        elif name == "COPY":
            tracked = ["git", "-C", str(ROOT), "ls-files", "-z", "--cached", "--others"]
            listed = subprocess.run(
                [*tracked, "--exclude-standard"], capture_output=True, check=True
            )
            for file in filter(None, listed.stdout.decode().split("\0")):
                if (ROOT / file).is_file():
                    _copy(ROOT / file, folder / place.lstrip("/") / file)
        elif name == "ENV":
            environment |= dict(re.findall(r"(\w+)=(\S+)", rest))
        elif name == "USER":
            user = rest
        elif name == "CMD":
            start = json.loads(rest)[-1]
    given = {name: os.environ[name] for name in ("DATABASE_URL", "SECRET_KEY")}
    return _inside(folder, place, environment | given, user, start)


def instructions(text: str) -> Iterator[tuple[str, str]]:
    """Each instruction of a container file with what follows it, comments left out."""
    lines = [line for line in text.splitlines() if not line.lstrip().startswith("#")]
    for line in re.sub(r"\\\n\s*", " ", "\n".join(lines)).splitlines():
        if line.strip():
            name, _, rest = line.partition(" ")
            yield name, rest.strip()


def _inside(
    folder: Path, place: str, environment: dict[str, str], user: str, command: str
) -> list[str]:
    usual = {
        "PATH": "/usr/local/bin:/usr/bin:/bin:/usr/sbin:/sbin",
        "HOME": "/root" if user == "0" else "/",
        "NODE_EXTRA_CA_CERTS": "/etc/ssl/certs/ca-certificates.crt",
    }
    settings = [f"{name}={value}" for name, value in (usual | environment).items()]
    enter = ["chroot", f"--userspec={user}:{user}", str(folder)]
    script = f"cd {place}; {command}"
    return [*enter, "/usr/bin/env", "-i", *settings, "/bin/bash", "-eo", "pipefail", "-c", script]


def _answers(command: list[str]) -> int:
    with subprocess.Popen(command, start_new_session=True) as process:
        try:
            for _ in range(PATIENCE_S):
                time.sleep(1)
                if process.poll() is not None:
                    raise Stop("the application stopped at once")
                try:
                    with urllib.request.urlopen(READY, timeout=5) as answer:
                        say(f"{READY}: {answer.read().decode()}")
                        return 0
                except OSError:
                    continue
            raise Stop(f"the application was not ready within {PATIENCE_S} s")
        finally:
            process.terminate()


@contextmanager
def _mounted(folder: Path) -> Iterator[None]:
    mounts = [(["-t", "proc", "proc"], "proc"), (["--bind", "/dev"], "dev")]
    for how, name in mounts:
        subprocess.run(["mount", *how, str(folder / name)], check=True)
    try:
        yield
    finally:
        for _, name in reversed(mounts):
            subprocess.run(["umount", "-l", str(folder / name)])


def _copy(source: Path, target: Path) -> None:
    if source.is_dir():
        shutil.copytree(source, target, dirs_exist_ok=True, symlinks=True)
    elif source.exists():
        target.parent.mkdir(parents=True, exist_ok=True)
        shutil.copy2(source, target)


if __name__ == "__main__":
    run_main(main, sys.argv[1:])
