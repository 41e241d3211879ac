"""What has to come from Debian: told at once and in full, named by Debian's rule."""

from __future__ import annotations

import os
import shutil
import subprocess
from dataclasses import replace
from pathlib import Path

import pytest
from kitchenhand import debian, machine, places
from kitchenhand.say import Trouble
from kitchenhand.steps import Step

SERVES = "postgresql libpangoft2-1.0-0 libharfbuzz-subset0"
"""What has to come from Debian to serve, besides Python."""


@pytest.fixture
def nothing_here(monkeypatch):
    """An ordinary user on a machine that has Python and nothing else of what is needed."""
    monkeypatch.setattr(os, "geteuid", lambda: 1000)
    needs = [replace(need, here=lambda: False) for need in debian.NEEDS if need.package != "python3-venv"]
    monkeypatch.setattr(debian, "NEEDS", needs)


@pytest.mark.parametrize(
    ("tests", "packages"), [(False, SERVES), (True, f"{SERVES} chromium-headless-shell libatomic1")]
)
def test_everything_missing_is_told_before_anything_is_set_up(
    nothing_here, monkeypatch, capsys, tests, packages
):
    done, told = set(), []
    for part in (
        "_ensure_packages",
        "_ensure_modules",
        "_ensure_kernel",
        "ensure_node_modules",
        "ensure_web",
    ):

        def ensure(part=part, **_):
            done.add(part)
            told.append(capsys.readouterr().err)

        monkeypatch.setattr(machine, part, ensure)
    with pytest.raises(Trouble, match=f"sudo apt-get install {packages}$"):
        machine.ensure(tests=tests, more=[Step("the database", pytest.fail, (machine.DEBIAN,))])
    assert f"sudo apt-get install {packages}\n" in told[0]
    assert "PostgreSQL server" in told[0]
    assert ("Chromium" in told[0]) == tests
    without_root = {"_ensure_packages", "_ensure_kernel", "ensure_node_modules", "ensure_web"}
    assert done == without_root, "what can be had without root is set up"


def test_where_not_even_python_s_venv_is_here_nothing_is_begun(nothing_here, monkeypatch):
    monkeypatch.setattr(debian, "has_venv", lambda: False)
    with pytest.raises(Trouble, match=f"sudo apt-get install {SERVES}$"):
        debian.install_or_tell(tests=False)


def test_root_gets_all_of_it_in_one_installation(nothing_here, monkeypatch):
    monkeypatch.setattr(os, "geteuid", lambda: 0)
    monkeypatch.setattr(shutil, "which", lambda name: f"/usr/bin/{name}")
    ran = []
    monkeypatch.setattr(debian, "logged", lambda command, what, **_: ran.append(command))
    debian.install_or_tell(tests=True)
    assert [command[1] for command in ran] == ["update", "install"]
    pictures = ["tesseract-ocr", "tesseract-ocr-fra", "tesseract-ocr-deu"]
    assert ran[1][-8:] == [*SERVES.split(), *pictures, "chromium-headless-shell", "libatomic1"]


def test_what_is_optional_is_neither_demanded_nor_looked_for_at_each_start(monkeypatch):
    monkeypatch.setattr(os, "geteuid", lambda: 0)
    needs = [replace(need, here=lambda optional=need.optional: not optional) for need in debian.NEEDS]
    monkeypatch.setattr(debian, "NEEDS", needs)
    monkeypatch.setattr(debian, "install", pytest.fail)
    debian.install_or_tell(tests=False)
    debian.must_have(tests=True)


@pytest.mark.parametrize(
    ("library", "package"),
    [
        ("libatomic.so.1", "libatomic1"),
        ("libstdc++.so.6", "libstdc++6"),
        ("libX11.so.6", "libx11-6"),
        ("libnss3.so", "libnss3"),
        ("libgcc_s.so.1", "libgcc-s1"),
        ("libxkbcommon.so.0", "libxkbcommon0"),
    ],
)
def test_a_library_s_package_by_debian_s_rule(library, package):
    assert debian.package_of(library) == package


def test_a_program_without_its_library_is_told_with_the_package(monkeypatch, tmp_path):
    compiler = shutil.which("cc") or pytest.skip("needs a C compiler, which the tests do not install")
    stew = tmp_path / "libstew.so.3"
    (tmp_path / "stew.c").write_text("int stew(void) { return 0; }")
    (tmp_path / "main.c").write_text("int stew(void); int main(void) { return stew(); }")
    for words in (
        ["-shared", "-Wl,-soname,libstew.so.3", "-o", stew, "stew.c"],
        ["-o", "pan", "main.c", stew],
    ):
        subprocess.run([compiler, *words], cwd=tmp_path, check=True)
    stew.unlink()
    monkeypatch.setattr(debian, "STAMPS", tmp_path / "stamps")
    monkeypatch.setattr(os, "geteuid", lambda: 1000)
    with pytest.raises(
        Trouble, match=r"The pan does not find libstew.so.3.*\n  sudo apt-get install libstew3"
    ):
        debian.ensure_loads(tmp_path / "pan", "the pan")


def test_what_loads_is_asked_once(monkeypatch, tmp_path):
    monkeypatch.setattr(debian, "STAMPS", tmp_path)
    asked = []
    monkeypatch.setattr(debian, "missing_libraries", lambda program: asked.append(program) or [])
    for _ in range(3):
        debian.ensure_loads(Path("/bin/sh"), "the shell")
    assert len(asked) == 1


def test_without_any_python_one_line_tells_it_all(tmp_path):
    """The shell's part alone, with no Python on the path and no root."""
    for name in ("dirname", "id"):
        (tmp_path / name).symlink_to(shutil.which(name))
    (tmp_path / "id").unlink()
    (tmp_path / "id").write_text("#!/bin/sh\necho 1000\n")
    (tmp_path / "id").chmod(0o755)
    for command, last in (("start", SERVES.rsplit(maxsplit=1)[-1]), ("test", "libatomic1")):
        done = subprocess.run(
            ["/bin/sh", places.ROOT / "spoon", command],
            env={"PATH": str(tmp_path)},
            capture_output=True,
            text=True,
            check=False,
        )
        assert done.returncode == 1
        line = done.stderr.splitlines()[-1]
        assert line.startswith("  sudo apt-get install python3 python3-venv postgresql")
        assert line.endswith(last)
