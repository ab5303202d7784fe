"""Work on pictures that a worker process does for whoever waits: what goes wrong there is said in words."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import BrokenExecutor
from concurrent.futures import TimeoutError as TooLong
from typing import TypeVar

from juxtaform.limits import MOST_CLIP_WORK_S
from juxtaform.media.decode import PictureRefused
from juxtaform.studio.workspace import NotPossible, NotThere, Workspace

Done = TypeVar("Done")


def by_worker(ws: Workspace, work: Callable[..., Done], *args: object) -> Done:
    """What a worker makes of something. Raises NotThere for a file that is not in the store as it was, NotPossible for what cannot be done, takes too
    long, or ended the worker."""
    return all_by_workers(ws, work, [args])[0]


def all_by_workers(ws: Workspace, work: Callable[..., Done], tasks: list[tuple[object, ...]]) -> list[Done]:
    """The same for several, side by side."""
    try:
        asked = [ws.workers.executor().submit(work, *args) for args in tasks]
        return [a.result(MOST_CLIP_WORK_S) for a in asked]
    except PictureRefused as error:
        raise NotThere(f"A file is not in the store as it was: {error}") from error
    except TooLong as error:
        raise NotPossible("This takes too long. Bring it smaller or shorter.") from error
    except BrokenExecutor as error:
        ws.workers.drop()
        raise NotPossible("The process that looks at pictures ended (out of memory?). Try again.") from error
    except ValueError as error:
        raise NotPossible(str(error)) from error
