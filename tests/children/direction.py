"""Print in which direction the window is laid out, and how the number 83 is written."""

from PyQt6.QtCore import QLocale

from bambola.desk.shell.app import raise_splash

if __name__ == "__main__":
    app = raise_splash(None)[0]
    print(app.layoutDirection().name, QLocale().toString(83))
