"""Pictures of figures, ray cast from the same solids the sums use, without a graphics card or an
interface."""

from bambola.core.relief.camera import Camera, Stage, stage_of
from bambola.core.relief.growing import Growing, bundle_picture
from bambola.core.relief.picture import Picture, portrait
