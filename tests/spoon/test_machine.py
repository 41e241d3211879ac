"""Setting a machine up: what is skipped, what is said when something is missing."""

from __future__ import annotations

import socket
import subprocess

import pytest
from kitchenhand import cluster, machine, places, say, serve
from kitchenhand.say import Trouble


def test_a_failing_program_shows_its_last_words_and_its_log(monkeypatch, tmp_path):
    monkeypatch.setattr(say, "LOGS", tmp_path)
    with pytest.raises(Trouble) as trouble:
        machine._run(["sh", "-c", "echo flour everywhere; exit 3"], "sifting")
    assert "flour everywhere" in str(trouble.value)
    assert str(tmp_path / "sifting.log") in str(trouble.value)


def test_what_has_not_changed_is_not_done_again(monkeypatch, tmp_path):
    monkeypatch.setattr(machine, "STAMPS", tmp_path)
    source = places.ROOT / "README.md"
    assert not machine._unchanged("web", [source])
    machine._stamp("web", [source])
    assert machine._unchanged("web", [source])
    assert not machine._unchanged("web", [source, places.ROOT / "CHANGELOG.md"])


@pytest.mark.parametrize(
    ("said", "version"), [("v20.20.2", (20, 20)), ("v8.1.0", (8, 1)), ("not a version", (0, 0))]
)
def test_node_versions_are_read(tmp_path, said, version):
    node = tmp_path / "node"
    node.write_text(f"#!/bin/sh\necho '{said}'\n")
    node.chmod(0o755)
    assert machine._node_version(str(node)) == version
    assert machine._node_version(None) == (0, 0)


def test_a_taken_port_is_refused_and_the_next_free_one_is_found(capsys, monkeypatch):
    with socket.socket() as held:
        held.bind(("127.0.0.1", 0))
        held.listen()
        port = held.getsockname()[1]
        with pytest.raises(Trouble, match=f"Port {port} is taken"):
            cluster.free_port(port)
        monkeypatch.setattr(serve, "FIRST_PORT", port)
        door = serve._door("127.0.0.1", None)
        door.close()
        assert door.port > port
    assert f"port {port} is taken" in capsys.readouterr().out


def test_a_data_folder_that_cannot_be_used_is_said(monkeypatch, tmp_path):
    in_the_way = tmp_path / "postgres"
    in_the_way.write_text("a file where a folder should be")
    monkeypatch.setattr(cluster, "home_of_clusters", lambda: in_the_way)
    with pytest.raises(Trouble, match="cannot be used"):
        cluster.open_cluster("demo")


def test_requirements_are_pinned_hashed_and_name_no_address():
    for name in ("requirements.txt", "requirements-dev.txt", "requirements-node.txt"):
        text = (places.ROOT / name).read_text()
        pinned = [line for line in text.splitlines() if line and not line.startswith((" ", "#", "\t"))]
        assert pinned
        assert all("==" in line for line in pinned), name
        assert text.count("--hash=sha256:") >= len(pinned)
        assert "://" not in text


def test_the_lock_file_of_the_pages_records_no_addresses():
    assert '"resolved"' not in (places.WEB / "package-lock.json").read_text()


def test_help_names_every_command():
    done = subprocess.run([places.ROOT / "spoon", "--help"], capture_output=True, text=True, check=True)
    for command in (
        "start",
        "test",
        "build",
        "bare",
        "bench",
        "pictures",
        "plots",
        "contract",
        "admin",
        "manage",
    ):
        assert command in done.stdout


def test_a_wrong_command_is_refused():
    done = subprocess.run([places.ROOT / "spoon", "stir"], capture_output=True, text=True, check=False)
    assert done.returncode == 2
    assert "stir" in done.stderr
