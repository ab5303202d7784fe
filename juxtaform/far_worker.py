"""`juxtaform worker`: processes that measure pictures for a Juxtaform elsewhere, on a Dask scheduler."""

from __future__ import annotations

import asyncio
import os
import sys
from contextlib import AsyncExitStack
from pathlib import Path

from juxtaform.media.shared import COPIES_VARIABLE, STORE_VARIABLE, SharedWrong, shared

ALONE = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1", "OPENCV_FOR_THREADS_NUM": "1"}
"""A process measures one picture at a time by one thread."""


def run(scheduler: str, processes: int, memory: str, copies: Path) -> int:
    """Work until interrupted; the exit code. Processes that die, or take too much memory, are made anew."""
    count = processes or len(os.sched_getaffinity(0))
    copies.mkdir(mode=0o700, parents=True, exist_ok=True)
    try:
        if shared() is None:
            print(
                f"{STORE_VARIABLE} is not set: pictures are read where the server has them, which works on the same machine alone.",
                flush=True,
            )
    except SharedWrong as error:
        print(error, file=sys.stderr)
        return 2
    os.environ[COPIES_VARIABLE] = str(copies.resolve())
    os.environ.update(ALONE)
    try:
        asyncio.run(_work(scheduler, count, memory))
    except KeyboardInterrupt:
        print("Stopped.")
    except (OSError, TimeoutError) as error:
        print(f"The scheduler {scheduler} is not reached: {error}", file=sys.stderr)
        return 1
    return 0


async def _work(scheduler: str, count: int, memory: str) -> None:
    import dask
    from distributed import Nanny

    # Dask lets the allocator give back every large array at once. Pictures are large arrays: each would be paged in anew.
    dask.config.set({"distributed.nanny.pre-spawn-environ": {}})
    environment = {name: os.environ[name] for name in (*ALONE, COPIES_VARIABLE)}
    async with AsyncExitStack() as stack:
        nannies = [
            await stack.enter_async_context(
                Nanny(scheduler, nthreads=1, memory_limit=memory, env=environment, dashboard=False, death_timeout=30)
            )
            for _ in range(count)
        ]
        print(f"{count} processes measure pictures for {scheduler}.  (Ctrl-C stops them)", flush=True)
        await asyncio.gather(*(n.finished() for n in nannies))
