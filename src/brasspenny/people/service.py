"""Adding, renaming and removing people."""

from __future__ import annotations

from ..act import Act
from ..history import service as history
from ..refusals import Conflict, NotFound
from ..store.models import Person
from ..store.writing import use_case
from . import schemas as s


def open_person(person_id: str) -> Person:
    person = Person.get_or_none((Person.id == person_id) & Person.deleted_at.is_null())
    if person is None:
        raise NotFound("person")
    return person


def all_people() -> s.PeopleAnswer:
    rows = Person.select().where(Person.deleted_at.is_null()).order_by(Person.name)
    return s.PeopleAnswer(people=[_shape(p) for p in rows])


@use_case
def add_person(sent: s.PersonBody, act: Act) -> s.PersonAnswer:
    _free_name(sent.name)
    person = Person(id=act.new_id(), name=sent.name, created_at=act.now)
    history.add(person, act=act, trial_id=None)
    return _shape(person)


@use_case
def rename_person(person_id: str, sent: s.PersonBody, rev: int, act: Act) -> s.PersonAnswer:
    person = open_person(person_id)
    history.edit(person, {"name": sent.name}, rev=rev, act=act, trial_id=None)
    return _shape(person)


@use_case
def remove_person(person_id: str, act: Act) -> str:
    return history.remove(open_person(person_id), act=act, trial_id=None)


def _free_name(name: str, but: str = "") -> None:
    if Person.select().where((Person.name == name) & Person.deleted_at.is_null() & (Person.id != but)).exists():
        raise Conflict("name", f"There is a {name} already.", "Choose that person, or add an initial.")


history.guard(
    "person",
    restore=lambda person: _free_name(person.name, but=person.id),
    edit=lambda person, values: _free_name(values["name"], but=person.id),
)


def _shape(p: Person) -> s.PersonAnswer:
    return s.PersonAnswer(id=p.id, name=p.name, rev=p.rev)
