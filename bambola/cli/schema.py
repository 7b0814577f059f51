"""The JSON Schemas that are published."""

from __future__ import annotations

import argparse
import json

from bambola.cli.asked import Commands, say
from bambola.core.export.json_plan import plan_schema
from bambola.core.figure import document_schema
from bambola.core.words import Words
from bambola.language import tr


def options(commands: Commands) -> None:
    """What it understands."""
    schema = commands.add_parser("schema", help=tr("print a JSON Schema"))
    schema.add_argument("of", choices=("plan", "figure"))


def run(args: argparse.Namespace, words: Words) -> None:
    """Do it. Bad input raises what the command tells in one sentence."""
    schema = plan_schema() if args.of == "plan" else document_schema()
    say(json.dumps(schema, indent=1, ensure_ascii=False) + "\n")
