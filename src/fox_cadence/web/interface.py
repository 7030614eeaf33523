"""The HTTP interface as it is described to scripts: OpenAPI 3.1 at /api/openapi.json, and a page to read."""

from collections import defaultdict
from collections.abc import Iterator, Mapping
from typing import Any

from fastapi import APIRouter, FastAPI, Request, Response
from fastapi.openapi.utils import get_openapi
from fastapi.responses import HTMLResponse, JSONResponse
from fastapi.routing import APIRoute

from fox_cadence.web.pages import templates
from fox_cadence.web.problems import CONTENT_TYPE, KINDS

router = APIRouter()

ADDRESS = "/api/openapi.json"
_PROBLEM = {
    "type": "object",
    "description": "Problem details (RFC 9457).",
    "required": ["type", "title", "status", "detail"],
    "properties": {
        "type": {"type": "string", "enum": [f"/api#{kind}" for kind in KINDS]},
        "title": {"type": "string"},
        "status": {"type": "integer"},
        "detail": {"type": "string", "description": "What was wrong and what to do, for people."},
        "place": {"type": "string", "description": "Where in what was sent."},
        "state": {"description": "After a clash: the project as it is now."},
        "clash": {"description": "After a clash: what both windows wanted."},
    },
}
_ABOUT = (
    "What the pages of Fox Cadence ask for, and scripts can ask for too. On the machine it runs on nothing "
    "more is needed; on a network a token is (`fox-cadence token NAME`). Long work is answered with a job: "
    "ask for it until its `state` is done, failed or cancelled. Every change is a revision that can be "
    "undone; `based_on` says which one it was meant for."
)


def name_of(route: APIRoute) -> str:
    """The stable name of an operation: the group it is in, and what it does."""
    group = route.endpoint.__module__.rsplit(".", 1)[-1]
    return f"{group}-{route.endpoint.__name__}".replace("_", "-")


def describe(app: FastAPI) -> None:
    """Have an application describe itself."""

    def schema() -> dict[str, Any]:
        if app.openapi_schema is None:
            app.openapi_schema = _schema(app)
        return app.openapi_schema

    app.openapi = schema  # type: ignore[method-assign] # as FastAPI's documentation has it


def _schema(app: FastAPI) -> dict[str, Any]:
    made = get_openapi(
        title=app.title,
        version="1",
        openapi_version="3.1.0",
        description=_ABOUT,
        routes=app.routes,
    )
    parts = made.setdefault("components", {})
    schemas = parts.setdefault("schemas", {})
    for foreign in ("HTTPValidationError", "ValidationError"):
        schemas.pop(foreign, None)
    schemas["Problem"] = _PROBLEM
    parts["responses"] = {
        "Problem": {
            "description": "It was not done; the answer says why.",
            "content": {CONTENT_TYPE: {"schema": {"$ref": "#/components/schemas/Problem"}}},
        }
    }
    parts["securitySchemes"] = {"token": {"type": "http", "scheme": "bearer"}}
    made["security"] = [{}, {"token": []}]
    for path, methods in made["paths"].items():
        for operation in methods.values():
            operation["responses"].pop("422", None)
            if path.startswith(("/api/", "/media/")):
                operation["responses"]["default"] = {"$ref": "#/components/responses/Problem"}
    return made


@router.get(ADDRESS, include_in_schema=False)
def as_openapi(request: Request) -> Response:
    return JSONResponse(request.app.openapi())


@router.get("/api", response_class=HTMLResponse, include_in_schema=False)
def as_page(request: Request) -> Response:
    schema = request.app.openapi()
    groups: dict[str, list[dict[str, Any]]] = defaultdict(list)
    for each in operations(schema):
        if each["path"].startswith(("/api/", "/media/")):
            groups[each["name"].split("-")[0]].append(each)
    context = {"about": _ABOUT, "groups": sorted(groups.items()), "problems": KINDS, "address": ADDRESS}
    return templates.TemplateResponse(request, "interface.html", context)


def operations(schema: Mapping[str, Any]) -> Iterator[dict[str, Any]]:
    """Every operation of a description: its `name`, `method`, `path`, `text`, and `fields`, each with `name`,
    `place` (path, query, body or form), `type`, `needed`."""
    for path, methods in schema["paths"].items():
        for method, operation in methods.items():
            fields = [
                {
                    "name": each["name"],
                    "place": each["in"],
                    "type": _type(schema, each["schema"]),
                    "needed": each.get("required", False),
                }
                for each in operation.get("parameters", [])
                if each["in"] in ("path", "query")
            ]
            kind, body = _body(schema, operation)
            needed = set(body.get("required", ()))
            fields += [
                {
                    "name": name,
                    "place": "body" if kind == "application/json" else "form",
                    "type": _type(schema, each),
                    "needed": name in needed,
                }
                for name, each in body.get("properties", {}).items()
            ]
            yield {
                "name": operation["operationId"],
                "method": method.upper(),
                "path": path,
                "text": operation.get("description") or operation.get("summary", ""),
                "kind": kind,
                "fields": fields,
            }


def _body(schema: Mapping[str, Any], operation: Mapping[str, Any]) -> tuple[str, Mapping[str, Any]]:
    content = operation.get("requestBody", {}).get("content", {})
    for kind, described in content.items():
        return kind, _resolved(schema, described.get("schema", {}))
    return "", {}


def _resolved(schema: Mapping[str, Any], value: Mapping[str, Any]) -> Mapping[str, Any]:
    if "$ref" in value:
        found: Mapping[str, Any] = schema["components"]["schemas"][value["$ref"].rsplit("/", 1)[-1]]
        return found
    choices = [each for each in value.get("anyOf", ()) if each.get("type") != "null"]
    return _resolved(schema, choices[0]) if len(choices) == 1 else value


def _type(schema: Mapping[str, Any], value: Mapping[str, Any]) -> str:
    """The type of a field in a few words."""
    found = _resolved(schema, value)
    if found.get("format") == "binary" or found.get("contentMediaType"):
        return "file"
    if found.get("type") == "array":
        return f"list of {_type(schema, found.get('items', {}))}"
    if "enum" in found:
        return " or ".join(str(each) for each in found["enum"])
    return str(found.get("title", "object") if found.get("type") == "object" else found.get("type", "any"))
