"""Reading and writing files safely, whatever they contain."""

from bambola.files.reading import FileRefusedError, read_regular
from bambola.files.writing import ExportError, write_made, write_whole
