"""The tools of the board, one for each step of measuring: what a press, a drag or a key does."""

from bambola.desk.stations.measure.hands.base import Hand
from bambola.desk.stations.measure.hands.cut import CutHand
from bambola.desk.stations.measure.hands.dress import DressHand
from bambola.desk.stations.measure.hands.face import FaceHand
from bambola.desk.stations.measure.hands.frame import FrameHand
from bambola.desk.stations.measure.hands.line import LineHand
from bambola.desk.stations.measure.hands.places import PlaceHand
from bambola.desk.stations.measure.hands.shape import ShapeHand
from bambola.desk.stations.measure.hands.wire import WireHand
