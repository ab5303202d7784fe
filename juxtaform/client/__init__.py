"""The API from Python: `Api` has a method for every route, typed from the OpenAPI document."""

from juxtaform.client.api import Api
from juxtaform.client.calls import NotReached, Refused

__all__ = ["Api", "NotReached", "Refused"]
