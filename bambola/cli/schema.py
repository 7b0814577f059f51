"""``bambola schema``: prints the published JSON Schemas."""

from __future__ import annotations

import argparse
import json
from typing import Any

from bambola import __version__
from bambola.cli.arguments import Commands, say_json
from bambola.core.bench.model import bench_schema
from bambola.core.book.document import book_schema
from bambola.core.export.json_plan import heights_schema, plan_schema
from bambola.core.figure import document_schema
from bambola.core.strokes.document import strokes_schema
from bambola.core.words import Words
from bambola.language import tr

DRAFT = "https://json-schema.org/draft/2020-12/schema"
SCHEMAS = {
    "plan": plan_schema,
    "heights": heights_schema,
    "figure": document_schema,
    "bench": bench_schema,
    "book": book_schema,
    "strokes": strokes_schema,
}


def options(commands: Commands) -> None:
    """Add the command's options."""
    schema = commands.add_parser("schema", help=tr("print a JSON Schema"))
    schema.add_argument("of", choices=tuple(SCHEMAS))


def run(args: argparse.Namespace, words: Words) -> None:
    """Run the command. Bad input raises an error with one sentence."""
    say_json(json.dumps(published_schema(args.of), indent=1, ensure_ascii=False) + "\n")


def published_schema(name: str) -> dict[str, Any]:
    """Return a schema as published, with its identifier and the version of the files it describes."""
    known = {"$schema": DRAFT, "$id": f"urn:bambola:schema:{name}:{__version__}"}
    return known | {key: value for key, value in SCHEMAS[name]().items() if key not in known}
