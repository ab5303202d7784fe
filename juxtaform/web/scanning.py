"""Files that come in are looked at by a scanner first, where one is named; what it does not let through comes no further."""

from __future__ import annotations

from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from starlette.datastructures import UploadFile

from juxtaform.services.scanner import Scanner


async def scanned(request: Request) -> None:
    """Have every file of a request looked at. Raises Harmful, ScannerAway."""
    scanner: Scanner | None = request.app.state.scanner
    if scanner is None or not request.headers.get("content-type", "").startswith("multipart/"):
        return
    for _, part in (await request.form()).multi_items():
        if isinstance(part, UploadFile):
            await run_in_threadpool(scanner.look, part.file)
            await part.seek(0)
