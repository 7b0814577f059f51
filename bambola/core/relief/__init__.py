"""Pictures of figures, cast from the very solids their sums use. No graphics card, no interface."""

from bambola.core.relief.bundle import bundle_picture
from bambola.core.relief.camera import Camera, Stage, stage_of
from bambola.core.relief.growing import Growing
from bambola.core.relief.picture import Picture, portrait
