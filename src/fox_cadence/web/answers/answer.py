"""Answers to a page: what it does not know yet of a project."""

import itertools
import secrets
import threading
from typing import Annotated

from cachetools import LRUCache
from fastapi import Depends, Header, Request

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import Project
from fox_cadence.store.projects import Head
from fox_cadence.web.answers.delta import changes, is_empty
from fox_cadence.web.answers.kept_rows import KeptRows
from fox_cadence.web.answers.project import project_json
from fox_cadence.web.answers.shapes import ChangesJson, ProjectJson

MOST_KEPT = 64
"""States of projects that pages may have; a page whose state is no longer among them is told the whole."""


class Answers:
    """Puts projects into answers, and keeps what was answered, so that the next answer tells only what has
    changed."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self._kept = KeptRows()
        self._told: LRUCache[str, ProjectJson] = LRUCache(MOST_KEPT)
        self._newest: LRUCache[str, ProjectJson] = LRUCache(MOST_KEPT)
        self._numbers = itertools.count(1)
        self._run = secrets.token_hex(3)
        self._lock = threading.Lock()

    def next_version(self) -> str:
        """The name of a state that is looked at from now on: of two states, the one with the higher number is
        never the older one."""
        return f"{self._run}-{next(self._numbers)}"

    def of(self, head: Head, project: Project, known: str, version: str) -> ProjectJson | ChangesJson:
        """A state of a project: what differs from the state the page knows, or the whole where that is
        forgotten."""
        made = project_json(self._workspace, self._kept, head, project, version)
        with self._lock:
            newest, before = self._newest.get(head.project_id), self._told.get(known)
            since = changes(newest, made) if newest is not None else None
            if newest is not None and since is not None and is_empty(since):
                made, since = newest, None
            self._newest[head.project_id] = self._told[made["version"]] = made
        if before is None or before["project"] != made["project"]:
            return made
        return since if since is not None and before is newest else changes(before, made)


class Answer:
    """Answers one request, of a page that knows the state `known` ('' for none)."""

    def __init__(self, answers: Answers, workspace: Workspace, known: str) -> None:
        self._answers, self._workspace, self._known = answers, workspace, known

    def project(self, project_id: str) -> ProjectJson | ChangesJson:
        """A project as it stands. Raises NotFoundError."""
        version = self._answers.next_version()
        head = self._workspace.head(project_id)
        return self._answers.of(head, head.project, self._known, version)

    def state(self, project_id: str, project: Project) -> ProjectJson | ChangesJson:
        """Another state of a project: one it had, or would have."""
        version = self._answers.next_version()
        return self._answers.of(self._workspace.head(project_id), project, self._known, version)


def _answer(request: Request, x_known_version: Annotated[str, Header(max_length=40)] = "") -> Answer:
    state = request.app.state
    return Answer(state.answers, state.workspace, x_known_version)


InAnswer = Annotated[Answer, Depends(_answer)]
