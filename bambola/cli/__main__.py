"""``python -m bambola.cli``."""

import sys

from bambola.cli import main

sys.exit(main())
