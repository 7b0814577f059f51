"""Chenille stems: one for each pair of limbs and one along the spine, banded where they cross."""

from __future__ import annotations

from bambola.core.armature.gauge import CHENILLE
from bambola.core.armature.schools.hoops import hoops
from bambola.core.armature.schools.school import School

SCHOOL = School("chenille", hoops, stock=CHENILLE)
