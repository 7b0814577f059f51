"""What to do when something goes wrong: symptoms, and remedies by direction, size and firmness."""

from bambola.core.rescue.advice import Advice, ReadingMissingError, advise, remedies
from bambola.core.rescue.piece import (
    Action,
    MeasuredPiece,
    PieceReading,
    WantedPiece,
    apply_action,
    wanted_at,
    wanted_of,
)
from bambola.core.rescue.symptoms import SYMPTOM_BY_ID, SYMPTOMS, Symptom, possible_symptoms
