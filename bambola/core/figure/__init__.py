"""The design as a value: shapes, parts, armature, fittings, brief and the document."""

from bambola.core.figure.brief import Brief, Move
from bambola.core.figure.document import (
    Document,
    DocumentError,
    document_schema,
    dump_document,
    load_document,
)
from bambola.core.figure.fields import Firmness, Join, Metal
from bambola.core.figure.model import (
    Bone,
    Coat,
    Datum,
    FaceMark,
    Fitting,
    Garment,
    Node,
    Part,
    Piece,
    PoseBend,
    Row,
    Seat,
    SizeRule,
    Tilt,
    Wire,
)
from bambola.core.figure.places import Fur, Place
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
from bambola.core.figure.whole import Figure
