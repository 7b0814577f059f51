"""Write unsaved work into the journal in the folder that is the argument, and be killed."""

import os
import signal
import sys
from pathlib import Path

from bambola.demo import load_demo
from bambola.store import Journal

if __name__ == "__main__":
    demo = load_demo()
    Journal(Path(sys.argv[1])).write(demo.figure, demo.brief.at_height(111), None)
    os.kill(os.getpid(), signal.SIGKILL)
