"""Every threshold of judgement, each with the reason or the data it was set on.

Distances called "relative" are divided by the tolerance that was calibrated on the user's own references: 1 is the
edge of the tolerance band.
"""

TRAIT_DELTA_E = 7.0
"""Least allowed CIEDE2000 between a trait's expected and seen colour once the scene's light is out.
Side-by-side prints of one paint vary by 2 to 5; below 7 nobody calls it another colour."""

TRAIT_DELTA_E_MOST = 16.0
"""However much the references disagree, a difference beyond this is always a change: two colour names. A reference that is
read so much off its own model was read wrongly, and says nothing of how far the references differ."""

TRAIT_SPREAD_FACTOR = 1.6
"""A trait may differ by this many times the difference found among the references themselves."""

TRAIT_PRESENT_SHARE = 0.28
"""A trait is present when at least this part of its expected area is seen in its colour; poses and props hide the rest."""

TRAIT_EXACT_SHARE = 0.4
"""Where this part of a trait's area is seen in just its colour it holds, whatever like colours stand around it."""

TRAIT_CHANGED_SHARE = 0.35
"""A trait is recoloured, not missing, when an unexplained colour fills at least this part of its area in its place."""

WHOLE_PART_SHARE = 0.12
"""A trait with more of the figure than this is a part of the body or its main cloth: it is recoloured rather than gone,
even where its new colour is that of the ground."""

TRAIT_LEAST_PX = 5
"""A trait expected on fewer working pixels than this in an appearance is too small to judge."""

FADED_COLOUR, FADED_SHARE = 0.5, 0.03
"""In a picture that kept less than this part of its colour, a trait smaller than this share of the figure is not
judged: taking the fade out multiplies what blur and rounding did to it. The share grows with the cube of the fade."""

FADED_PICTURE = 2.0
"""A picture whose strongest colours have less than a quarter (this many log2) of the sequence's usual saturation has lost its colour. Subject
and setting alone move it by up to 1.5, a tint not at all; greying by 70 % moves it by 2. Set on constructed pictures greyed step by step."""
FADED_GROUND = 3.0
"""... and where no figure shows whether it did, one with less than an eighth."""

FADED_FIGURE, FIGURE_COLOURFUL = 0.4, 0.15
"""A grey picture lost its colour where its figures have less than the first part of their references' colourfulness; before a grey ground they keep it.
A figure of less than the second (stops) has no colour to lose."""

FIGURE_TOLERANCE = 1.0
"""Relative figure distance at which a figure counts as drifted."""

SWAP_RATIO = 0.72
"""A figure is called swapped when another cast member fits with less than this part of the distance to its own."""

STYLE_TOLERANCE = 1.0
"""Relative style distance at which a picture counts as out of style."""

BORDER_LEAST = 0.012
BORDER_MOST = 0.4
"""A printed border (letterbox, pillars, the rim of an instant photo) is between these parts of the side that it lies along."""

CHANGE_GAIN = 9.0
"""A lasting change is believed when the robust log-likelihood gains more than this (about three independent terms
at two sigma, after the search over positions is paid for)."""

SLIDE_LEAST_SHOTS = 3
"""A slide needs at least this many shots at the end of a run."""

DOUBT_SEVERITY = 0.6
"""A question ranks below every finding."""
