"""From pictures to parts: silhouettes, widths along a line, and the shapes they stand for.

Import from the submodules: what separates a picture is slow to load and only wanted with pictures.
"""
