"""What every model of the API has in common."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from juxtaform.limits import MOST_TEXT


class Body(BaseModel):
    """A model of the API: numbers are such as JSON can say."""

    model_config = ConfigDict(allow_inf_nan=False)


MOST_INT = 2**31 - 1
"""Whole numbers are kept in 32 bits."""
Place = Annotated[int, Field(ge=0, le=MOST_TEXT)]
"""A place in the text, in characters."""
Id = Annotated[str, Field(max_length=32)]
Digest = Annotated[str, Field(min_length=64, max_length=64, pattern=r"^[0-9a-f]+$")]
