"""`python -m custard` is the command `custard`."""

import sys

from custard.cli import main

sys.exit(main())
