"""Print the modules of the core that are read with the room of it that is the argument."""

import sys
from importlib import import_module

if __name__ == "__main__":
    import_module(f"bambola.core.{sys.argv[1]}")
    print(*(name for name in sys.modules if name.startswith("bambola.core.")))
