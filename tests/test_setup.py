"""The set-up script: quick when all is there, healing when it was interrupted, one clear line when it cannot."""

import hashlib
import os
import shutil
import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


@pytest.fixture
def project(tmp_path):
    """A project folder with the script and stand-ins for the programs that it calls, which write down their calls."""
    home = tmp_path / "project"
    (home / "src").mkdir(parents=True)
    shutil.copy(ROOT / "requirements.lock", home)
    bin_ = tmp_path / "bin"
    bin_.mkdir()
    for name in ("bash", "cat", "sha256sum", "flock", "rm", "mkdir", "printf", "dirname", "chmod", "echo"):
        result = shutil.which(name)
        if result:
            (bin_ / name).symlink_to(result)
    script(
        bin_ / "python3",
        f'echo "python3 $*" >> {tmp_path}/calls\n'
        f'if [ "$2" = venv ]; then mkdir -p "$3/bin"; cp {bin_}/python3 "$3/bin/python"; fi\nexit 0',
    )
    script(bin_ / "ldconfig", "echo " + " ".join(libraries()))
    script(bin_ / "cp", f'exec {shutil.which("cp")} "$@"')
    script(bin_ / "id", "echo 1000")
    return home, bin_, tmp_path / "calls"


def script(path: Path, body: str) -> None:
    path.write_text(f"#!{shutil.which('bash')}\n{body}\n")
    path.chmod(0o755)


def libraries() -> list[str]:
    line = next(x for x in (ROOT / "tools/environment.sh").read_text().splitlines() if x.startswith("SYSTEM_LIBRARIES"))
    return line.split('"')[1].split()


def ensure(home: Path, bin_: Path) -> subprocess.CompletedProcess:
    command = f'set -euo pipefail; . "{ROOT}/tools/environment.sh"; ensure_environment "{home}"'
    env = {"PATH": str(bin_), "HOME": str(home), **{k: v for k, v in os.environ.items() if k.startswith("LC_")}}
    return subprocess.run([shutil.which("bash"), "-c", command], capture_output=True, text=True, env=env)


def test_first_start_installs_by_hash_and_the_second_calls_nothing(project):
    home, bin_, calls = project
    first = ensure(home, bin_)
    assert first.returncode == 0, first.stderr
    assert "first start" in first.stderr
    said = calls.read_text()
    assert "--require-hashes" in said
    assert str(home / "requirements.lock") in said
    calls.unlink()
    second = ensure(home, bin_)
    assert second.returncode == 0
    assert second.stderr == ""
    assert not calls.exists()


def test_a_changed_lock_or_an_interrupted_set_up_begins_again(project):
    home, bin_, calls = project
    assert ensure(home, bin_).returncode == 0
    with open(home / "requirements.lock", "a") as lock:
        lock.write("# changed\n")
    calls.unlink()
    assert ensure(home, bin_).returncode == 0
    assert "pip" in calls.read_text()
    mark = home / ".venv" / "complete"
    assert hashlib.sha256((home / "requirements.lock").read_bytes()).hexdigest() in mark.read_text()
    mark.unlink()  # as after a kill in the middle
    (home / ".venv" / "half-written").write_text("")
    assert ensure(home, bin_).returncode == 0
    assert not (home / ".venv" / "half-written").exists()
    assert mark.exists()


def test_a_failed_download_leaves_no_mark(project):
    home, bin_, calls = project
    script(
        bin_ / "python3",
        f'echo "python3 $*" >> {calls}\n'
        f'case "$*" in *"-m venv"*) mkdir -p "$3/bin"; cp {bin_}/python3 "$3/bin/python";; *pip*) exit 1;; esac',
    )
    assert ensure(home, bin_).returncode != 0
    assert not (home / ".venv" / "complete").exists()


def test_missing_libraries_are_named_in_one_line_to_one_who_is_not_root(project):
    home, bin_, _ = project
    script(bin_ / "ldconfig", "echo libEGL.so.1")
    result = ensure(home, bin_)
    assert result.returncode != 0
    assert "apt-get install" in result.stderr
    assert "libxkbcommon0" in result.stderr
    assert len(result.stderr.strip().splitlines()) == 1


def test_the_lock_has_hashes_and_no_addresses():
    text = (ROOT / "requirements.lock").read_text()
    assert "://" not in text
    names = [line for line in text.splitlines() if "==" in line and not line.startswith((" ", "#"))]
    assert len(names) > 20
    assert text.count("--hash=sha256:") >= len(names)
