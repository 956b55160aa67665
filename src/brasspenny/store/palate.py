"""What the Palate room keeps: sessions of known steps, who sits in them, what they were served and answered."""

from __future__ import annotations

import peewee as pw
from playhouse.mysql_ext import JSONField

from .fields import IdField, MassField, PercentField, UtcField
from .models import Editable, Person, Table


class PalateSession(Editable):
    """One series. steps: in the axis' unit, rising; tds_pct: of the undiluted brew, where it was read. way: "helper" (somebody pours by a sheet) or "shuffled"
    (each shuffles their own marked cups). helper_hash, device_hash: of the helper's link and of the one device it opened on."""

    axis = pw.CharField(12)
    method = pw.CharField(12)
    choice = pw.CharField(12)
    way = pw.CharField(12)
    served = pw.CharField(80)
    tds_pct = PercentField(null=True)
    serve_g = MassField()
    cup_g = MassField()
    steps = JSONField()
    helper_hash = pw.FixedCharField(64, null=True, unique=True)
    device_hash = pw.FixedCharField(64, null=True)
    closed_at = UtcField(null=True)
    created_by = pw.CharField(12, null=True)


class PalateSeat(Table):
    """A taster in a session, and the hash of their link's token."""

    id = IdField(primary_key=True)
    session = pw.ForeignKeyField(PalateSession, backref="seats")
    person = pw.ForeignKeyField(Person, backref="+")
    token_hash = pw.FixedCharField(64, unique=True)
    created_at = UtcField()


class PalatePresentation(Table):
    """Two or three cups before a taster. place: where the cup to be found stands, from 0: the key of this one presentation; empty until it is turned over where
    cups are shuffled. picked: what they answered; right: once both are known."""

    id = IdField(primary_key=True)
    seat = pw.ForeignKeyField(PalateSeat, backref="presentations")
    number = pw.IntegerField()
    step = MassField()
    codes = JSONField()
    place = pw.IntegerField(null=True)
    odd_is_more = pw.BooleanField(default=True)
    served_at = UtcField()
    picked = pw.IntegerField(null=True)
    picked_at = UtcField(null=True)
    right = pw.BooleanField(null=True)


class PalateDrill(Editable):
    """A taster's exercise. cups: what is in each and how it is made up, in the order that is right; marked A, B, … underneath."""

    person = pw.ForeignKeyField(Person, backref="+")
    kind = pw.CharField(12)
    cups = JSONField()
    created_by = pw.CharField(12, null=True)


class PalateDrillRound(Table):
    """set_out: marks of the cups poured; answer: places, from 0; marks: from the left, once they are turned over, with the score they make."""

    id = IdField(primary_key=True)
    drill = pw.ForeignKeyField(PalateDrill, backref="+")
    number = pw.IntegerField()
    set_out = JSONField()
    answer = JSONField(null=True)
    marks = JSONField(null=True)
    score = pw.IntegerField(null=True)
    began_at = UtcField()
    turned_at = UtcField(null=True)


PALATE = (PalateSession, PalateSeat, PalatePresentation, PalateDrill, PalateDrillRound)
