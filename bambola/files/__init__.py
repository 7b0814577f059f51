"""Files on disk: read with care, written whole. Knows nothing of what stands in them."""

from bambola.files.reading import FileRefusedError, read_regular
from bambola.files.writing import ExportError, write_made, write_whole
