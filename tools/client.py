"""Write `juxtaform/client/api.py`, the typed Python client, from the OpenAPI document.

python -m tools.client
"""

from __future__ import annotations

import re
from keyword import iskeyword
from pathlib import Path
from typing import Any

from juxtaform.web.app import create_app

HERE = Path(__file__).parents[1] / "juxtaform" / "client" / "api.py"
HEAD = '''"""Every route of the API as a method, and the shapes of what goes in and out. Made by `python -m tools.client`; not written by hand."""

# fmt: off
# mypy: disable-error-code=no-any-return

from __future__ import annotations

from typing import Any, Literal, NotRequired, TypeAlias, TypedDict

from juxtaform.client.calls import Calls, FileIn

Json: TypeAlias = Any
'''
Schema = dict[str, Any]


def main() -> None:
    HERE.write_text(written(), encoding="utf-8")
    print(f"made {HERE.name}")


def written() -> str:
    """The module's text."""
    document = create_app(None, None).openapi()  # type: ignore[arg-type]
    schemas: dict[str, Schema] = document["components"]["schemas"]
    methods = [
        _method(verb, path, operation, schemas)
        for path, operations in document["paths"].items()
        for verb, operation in operations.items()
        if not path.endswith("/events")
    ]
    names = [re.search(r"def (\w+)", m).group(1) for m in methods]  # type: ignore[union-attr]
    assert len(names) == len(set(names)), sorted(n for n in names if names.count(n) > 1)
    shapes = [_shape(_called(name), s) for name, s in sorted(schemas.items()) if not name.startswith("Body_")]
    api = "class Api(Calls):\n" + '    """A running Juxtaform, route by route."""\n\n' + "\n\n".join(methods)
    return "\n\n\n".join([HEAD.rstrip(), *shapes, api]).rstrip() + "\n"


def _called(name: str) -> str:
    """A schema's name as that of a class; of two of one name each is told by its room.

    >>> _called("juxtaform__web__takes__Replacement")
    'TakesReplacement'
    """
    return "".join(part[:1].upper() + part[1:] for part in name.split("__")[-2:])


def _shape(name: str, schema: Schema) -> str:
    fields = schema.get("properties")
    if not fields:
        return f'{name}: TypeAlias = "{_type(schema)}"'
    required = set(schema.get("required", ()))
    typed = {k: _type(v) if k in required else f"NotRequired[{_type(v)}]" for k, v in fields.items()}
    if any(iskeyword(k) or not k.isidentifier() for k in typed):
        rows = ", ".join(f'"{k}": "{t}"' for k, t in typed.items())
        return f'{name} = TypedDict("{name}", {{{rows}}})'
    told = schema.get("description", "").split("\n")[0].replace('"', "'").replace("\\", "")
    doc = f'    """{told}"""\n\n' if told else ""
    return f"class {name}(TypedDict):\n{doc}" + "\n".join(f"    {k}: {t}" for k, t in typed.items())


def _type(schema: Schema) -> str:
    """A schema as a type in Python."""
    if "$ref" in schema:
        return _called(schema["$ref"].rsplit("/", 1)[1])
    for some in ("anyOf", "oneOf", "allOf"):
        if some in schema:
            return " | ".join(dict.fromkeys(_type(s) for s in schema[some]))
    if "const" in schema or "enum" in schema:
        values = schema.get("enum", [schema.get("const")])
        return f"Literal[{', '.join(repr(v) for v in values)}]"
    match schema.get("type"):
        case "string":
            return "str"
        case "integer":
            return "int"
        case "number":
            return "float"
        case "boolean":
            return "bool"
        case "null":
            return "None"
        case "array":
            return f"list[{_type(schema['items'])}]" if schema.get("items") else "list[Json]"
        case "object":
            more = schema.get("additionalProperties")
            return f"dict[str, {_type(more)}]" if isinstance(more, dict) else "dict[str, Json]"
    return "Json"


def _method(verb: str, path: str, operation: Schema, schemas: dict[str, Schema]) -> str:
    parameters = operation.get("parameters", [])
    parts = re.findall(r"{(\w+)}", path)
    takes, query = [f"{p}: str" for p in parts], []
    late = []
    for q in parameters:
        if q["in"] == "query":
            kind = _type(q["schema"])
            name = f"{q['name']}_" if iskeyword(q["name"]) or q["name"] in ("self", *parts) else q["name"]
            query.append(f'"{q["name"]}": {name}')
            (takes if q.get("required") else late).append(
                f"{name}: {kind}"
                if q.get("required")
                else f"{name}: {kind if 'None' in kind else f'{kind} | None'} = None"
            )
    given = [f'"{p}": {p}' for p in parts]
    asks = [f'"{verb.upper()}"', f'"{path}"', f"{{{', '.join(given)}}}"]
    if query:
        asks.append(f"query={{{', '.join(query)}}}")
    content = operation.get("requestBody", {}).get("content", {})
    if "application/json" in content:
        kind, needed = _type(content["application/json"]["schema"]), operation["requestBody"].get("required")
        (takes if needed else late).insert(
            len(parts) if needed else 0, f"body: {kind}" if needed else f"body: {kind} | None = None"
        )
        asks.append("body=body")
    elif "multipart/form-data" in content:
        form = schemas[content["multipart/form-data"]["schema"]["$ref"].rsplit("/", 1)[1]]
        fields = form["properties"]
        for k, s in fields.items():
            kind = "FileIn" if "binary" in str(s) or "octet-stream" in str(s) else "str"
            needed = k in form.get("required", ())
            (takes if needed else late).append(f"{k}: {kind}" if needed else f"{k}: {kind} | None = None")
        asks.append(f"form={{{', '.join(f'{chr(34)}{k}{chr(34)}: {k}' for k in fields)}}}")
    about = operation.get("summary", "").rstrip(".")
    gives = _answer(operation)
    call = f"self._asked({', '.join(asks)})"
    body = call if gives == "None" else f"return {call}"
    signature = ", ".join(["self", *takes, *(["*", *late] if late else [])])
    return f'    def {_name(verb, path)}({signature}) -> {gives}:\n        """{about}."""\n        {body}'


def _answer(operation: Schema) -> str:
    good = next(v for k, v in sorted(operation["responses"].items()) if k.startswith("2"))
    content = good.get("content")
    if not content:
        return "bytes" if "200" in operation["responses"] else "None"
    if set(content) != {"application/json"}:
        return "bytes"
    return _type(content["application/json"].get("schema", {}))


def _name(verb: str, path: str) -> str:
    """A method's name: what is done, and the words of the path; `one` where it ends in an id, `in_form` where in a form.

    >>> _name("patch", "/api/projects/{project_id}/shots/{shot_id}")
    'patch_projects_shots_one'
    """
    words = [re.sub(r"\W+", "_", w) for w in re.sub(r"{\w+}", "", path.removeprefix("/api/")).split("/") if w]
    one = ["in_form"] if path.endswith(".{form}") else ["one"] if path.endswith("}") else []
    return re.sub(r"_+", "_", "_".join([verb, *words, *one])).strip("_")


if __name__ == "__main__":
    main()
