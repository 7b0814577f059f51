"""The design as a value: shapes, parts, armature, fittings, brief, bench and the document."""

from bambola.core.figure.bench import Bench, FreeTime, Pace, Weights, WireStock, round_shares
from bambola.core.figure.brief import Brief, Move
from bambola.core.figure.document import (
    Document,
    DocumentError,
    check_wools,
    document_schema,
    dump_document,
    load_bench,
    load_document,
)
from bambola.core.figure.model import (
    Bone,
    Coat,
    Datum,
    FaceMark,
    Figure,
    Firmness,
    Fitting,
    Fur,
    Garment,
    Inset,
    Join,
    Metal,
    Node,
    Part,
    Piece,
    PoseBend,
    Seat,
    SizeRule,
    Tilt,
    Wire,
)
from bambola.core.figure.records import Making, Record
from bambola.core.figure.shapes import (
    Ball,
    Cone,
    Joint,
    Leaf,
    Limb,
    Pad,
    Rope,
    Sausage,
    Shape,
    StartForm,
    Station,
    Turned,
)
from bambola.core.figure.survey import Framing, Landmark, Sight, Stroke, Survey, Taken, Trace
from bambola.core.figure.wools import Ingredient, Role, Wool

__all__ = [
    "Ball", "Bench", "Bone", "Brief", "Coat", "Cone", "Datum", "Document", "DocumentError", "FaceMark",
    "Figure", "Firmness", "Fitting", "Framing", "FreeTime", "Fur", "Garment", "Ingredient", "Inset",
    "Join", "Joint", "Landmark", "Leaf", "Limb", "Making", "Metal", "Move", "Node", "Pace", "Pad", "Part",
    "Piece", "PoseBend", "Record", "Role", "Rope", "Sausage", "Seat", "Shape", "Sight", "SizeRule",
    "StartForm", "Station", "Stroke", "Survey", "Taken", "Tilt", "Trace", "Turned", "Weights", "Wire",
    "WireStock", "Wool", "check_wools", "document_schema", "dump_document", "load_bench", "load_document",
    "round_shares",
]  # fmt: skip
