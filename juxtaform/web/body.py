"""What every model of the API has in common."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Body(BaseModel):
    """A model of the API: numbers are such as JSON can say."""

    model_config = ConfigDict(allow_inf_nan=False)
