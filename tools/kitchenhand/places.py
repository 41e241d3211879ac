"""Where things lie in a checkout."""

from __future__ import annotations

import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
SERVER = ROOT / "server"
WEB = ROOT / "web"
DIST = WEB / "dist"
VAR = ROOT / "var"
"""Everything that is made while running: database, secrets, stamps. Never committed."""
STAMPS = VAR / "stamps"
LOGS = VAR / "logs"
BASE_PYTHON = sys.executable
TESTS_END = "OLDSPOON_TESTS_END"
"""The variable that says when quick tests stop, in seconds as `time.time` counts."""
TIME_UP = "the time of the quick tests is up"
