"""The Prompter: a simulated writing service that speaks the text-assist protocol, version 1 (docs/text-assist.md).

It is honest about being simple: it puts together what it was given by rules, and says so in every answer.
"""

from __future__ import annotations

import re
from typing import Annotated, Literal

from fastapi import FastAPI
from pydantic import BaseModel, Field

NOTE = "Put together by rules from your own words, by the Prompter that ships with Juxtaform. No writer wrote this."


class CastMember(BaseModel):
    name: str
    line: str = ""


class Request(BaseModel):
    """What is to be written: `beat` is the step of a story, `description` what one still picture shows."""

    version: Literal[1] = 1
    task: Literal["beat", "description"]
    premise: Annotated[str, Field(max_length=4000)] = ""
    tone: Annotated[str, Field(max_length=200)] = ""
    cast: Annotated[list[CastMember], Field(max_length=60)] = []
    place: Annotated[str, Field(max_length=300)] = ""
    title: Annotated[str, Field(max_length=300)] = ""
    purpose: Annotated[str, Field(max_length=2000)] = ""
    question: Annotated[str, Field(max_length=2000)] = ""
    words: Annotated[str, Field(max_length=8000, description="The story's words that a picture covers.")] = ""
    before: Annotated[str, Field(max_length=8000, description="What comes right before.")] = ""


class Offer(BaseModel):
    text: str


class Answer(BaseModel):
    """Offers, best first, and a note that is shown with them: who wrote this, and how."""

    version: Literal[1] = 1
    offers: list[Offer]
    note: str


class About(BaseModel):
    name: str
    version: Literal[1] = 1
    tasks: list[str]


app = FastAPI(title="Prompter", version="1", docs_url=None, redoc_url=None)


@app.get("/text-assist/v1", summary="Who answers, and what it can write")
def about() -> About:
    return About(name="Prompter", tasks=["beat", "description"])


@app.post("/text-assist/v1/offers", summary="Offers for a beat or a description")
def offers(request: Request) -> Answer:
    made = _beat(request) if request.task == "beat" else _description(request)
    return Answer(offers=[Offer(text=t) for t in dict.fromkeys(made) if t], note=NOTE)


def _beat(r: Request) -> list[str]:
    lead = r.cast[0].name if r.cast else "Somebody"
    other = r.cast[1].name if len(r.cast) > 1 else "nobody else"
    wants = re.sub(r"[.!?]+$", "", r.premise.strip()) or "something is wanted"
    return [
        f"{lead}: {r.purpose.rstrip('.').lower()}. {wants[:1].upper()}{wants[1:]}.",
        f"{lead} is alone{f' at {r.place}' if r.place else ''}, and {other} does not see it.",
        f"It begins with one thing that {lead} holds, and it ends without it.",
    ]


def _description(r: Request) -> list[str]:
    sentences = [
        s.strip() for s in re.split(r"(?<=[.!?…])\s+", re.sub(r"[“\"][^”\"]*[”\"],?\s*", "", r.words)) if s.strip()
    ]
    names = [c.name for c in r.cast]
    longest = max(sentences, key=len, default="")
    there = f", at {r.place}" if r.place else ""
    return [
        longest,
        f"{' and '.join(names[:2])}{there}." if names else "",
        f"{names[0]} in the foreground, seen from the side{there}." if names else "",
    ]
