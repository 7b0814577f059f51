"""Hand a design (first argument) over to the window that listens at the second argument."""

import sys
from pathlib import Path

from bambola.desk.shell.single_instance import hand_over

if __name__ == "__main__":
    sys.exit(not hand_over(Path(sys.argv[1]), path=Path(sys.argv[2])))
