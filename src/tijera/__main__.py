"""`python -m tijera`."""

import sys

from tijera.cli import main

sys.exit(main())
