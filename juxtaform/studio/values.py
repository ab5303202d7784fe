"""Plain values of the core that use cases take and give back, for those who call them."""

from juxtaform.core.brief.trimming import Profile
from juxtaform.core.colour.light import SceneLight
from juxtaform.core.picture.regions import Box
from juxtaform.core.plan.framings import Framing
from juxtaform.core.plan.shots import Angle, Facing, Join, Move, PageForm, Size, SoundKind
from juxtaform.core.text.difference import Piece

__all__ = [
    "Angle",
    "Box",
    "Facing",
    "Framing",
    "Join",
    "Move",
    "PageForm",
    "Piece",
    "Profile",
    "SceneLight",
    "Size",
    "SoundKind",
]
