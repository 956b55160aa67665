"""HTTP shapes of people."""

from __future__ import annotations

from ..http import Answer, Body, line


class PersonBody(Body):
    name: line(80, least=1)


class PersonAnswer(Answer):
    id: str
    name: str
    rev: int


class PeopleAnswer(Answer):
    people: list[PersonAnswer]
