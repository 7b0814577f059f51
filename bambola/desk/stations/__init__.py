"""The stations of the work, one folder each; :mod:`bambola.desk.shell.stations` lists them."""
