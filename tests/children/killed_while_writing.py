"""Write the file that is the first argument, and be killed at the call of ``os`` named by the second."""

import os
import signal
import sys
from pathlib import Path

from bambola.files import write_whole

if __name__ == "__main__":
    setattr(os, sys.argv[2], lambda *_: os.kill(os.getpid(), signal.SIGKILL))
    write_whole(Path(sys.argv[1]), b"new", keep_previous=True)
