"""The plan on paper and in other programs: JSON, CSV, SVG and PDF."""

from bambola.core.export.files import ExportError, write_whole
from bambola.core.export.json_plan import plan_json, plan_schema
from bambola.core.export.pdf import work_sheet
from bambola.core.export.svg import outline_svg
from bambola.core.export.tables import plan_tables

__all__ = [
    "ExportError", "outline_svg", "plan_json", "plan_schema", "plan_tables", "work_sheet",
    "write_whole",
]  # fmt: skip
