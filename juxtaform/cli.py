"""The commands."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Annotated

import typer

from juxtaform.formats import manifest as manifests

app = typer.Typer(
    add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False, help="Juxtaform's commands."
)


@app.command()
def check(
    manifest: Annotated[Path, typer.Argument(help="A sequence manifest (see docs/manifest.md).")],
    json_out: Annotated[Path | None, typer.Option("--json", help="Write the whole report here; `-` prints it.")] = None,
    quiet: Annotated[bool, typer.Option("--quiet", help="Say nothing but errors.")] = False,
) -> None:
    """Check a sequence: exit 0 when it holds, 1 with findings, 2 when the manifest is wrong."""
    from juxtaform.studio.headless import check_manifest

    show = sys.stderr.isatty() and not quiet

    def progress(done: int, total: int) -> None:
        if show:
            print(
                f"\r{done} of {total} pictures measured", end="" if done < total else "\n", file=sys.stderr, flush=True
            )

    try:
        report = check_manifest(manifests.read(manifest), manifest, progress)
    except manifests.ManifestWrong as error:
        print(f"{manifest}: {error}", file=sys.stderr)
        raise typer.Exit(2) from error
    text = json.dumps(report, ensure_ascii=False, indent=1) + "\n"
    if json_out == Path("-"):
        sys.stdout.write(text)
    elif json_out:
        try:
            json_out.write_text(text, encoding="utf-8")
        except OSError as error:
            print(f"The report cannot be written to {json_out}: {error.strerror}.", file=sys.stderr)
            raise typer.Exit(2) from error
    if not quiet and json_out != Path("-"):
        for finding in report["findings"]:
            print(f"{finding['shot']}: {finding['title']}  [{finding['measured']} {finding['unit']}]")
        print(f"{len(report['findings'])} findings in {len(report['shots'])} shots.")
    raise typer.Exit(1 if report["findings"] else 0)


@app.command()
def schema() -> None:
    """Print the JSON Schema of the sequence manifest."""
    print(json.dumps(manifests.schema(), ensure_ascii=False, indent=1))


@app.command()
def serve(
    port: Annotated[int, typer.Option(help="The port on 127.0.0.1; 0 takes a free one.")] = 8765,
    empty: Annotated[bool, typer.Option("--empty", help="Do not load the demo.")] = False,
    var: Annotated[Path, typer.Option(help="Where the database and the pictures lie.")] = Path("var"),
) -> None:
    """Start MariaDB and the server."""
    from juxtaform.server import CannotStart
    from juxtaform.server import serve as run

    try:
        run(var, port, demo=not empty)
    except KeyboardInterrupt:
        print("Stopped.")
    except CannotStart as error:
        print(error, file=sys.stderr)
        raise typer.Exit(1) from error


@app.command()
def openapi() -> None:
    """Print the API's OpenAPI document."""
    from juxtaform.media.store import PictureStore
    from juxtaform.records.database import Database
    from juxtaform.studio.checking import Checker
    from juxtaform.studio.workspace import Workspace
    from juxtaform.web.app import create_app

    ws = Workspace(Database("mysql+pymysql://127.0.0.1/none"), PictureStore(Path()))
    print(json.dumps(create_app(ws, Checker(ws)).openapi(), ensure_ascii=False))


@app.command()
def understudy(
    port: Annotated[int, typer.Option(help="The port on 127.0.0.1; 0 takes a free one.")] = 8766,
    often: Annotated[
        float, typer.Option(min=0, max=1, help="The chance that something goes wrong in a picture.")
    ] = 0.2,
    tells: Annotated[bool, typer.Option("--tells", help="Tell at /understudy what went wrong, to judge by.")] = False,
    keep: Annotated[Path | None, typer.Option(help="A folder where its jobs and pictures outlive it.")] = None,
) -> None:
    """Run the simulated picture-making service (docs/picture-service.md); JUXTAFORM_UNDERSTUDY_TOKEN closes it to others."""
    import os

    import uvicorn

    from juxtaform.server import CannotStart, listening_on
    from juxtaform.understudy.service import PREFIX, make_app

    try:
        listening = listening_on(port)
    except CannotStart as error:
        print(error, file=sys.stderr)
        raise typer.Exit(1) from error
    print(f"The Understudy is at http://127.0.0.1:{listening.getsockname()[1]}{PREFIX}/", flush=True)
    made = make_app(os.environ.get("JUXTAFORM_UNDERSTUDY_TOKEN", ""), often=often, tells=tells, keep=keep)
    uvicorn.Server(uvicorn.Config(made, log_level="warning", server_header=False)).run(sockets=[listening])


if __name__ == "__main__":
    app()
