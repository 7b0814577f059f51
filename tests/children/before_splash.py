"""Print the large packages that are read before the splash screen is shown."""

import sys

from bambola.desk.shell.app import DEMO, raise_splash

if __name__ == "__main__":
    assert callable(raise_splash) and DEMO
    print(sorted({"pydantic", "numpy", "manifold3d", "embreex", "scipy"} & set(sys.modules)))
