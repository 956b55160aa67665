"""What the Grind room keeps: sieve samples, doses through grinders, tests of flow through filters."""

from __future__ import annotations

import peewee as pw
from playhouse.mysql_ext import JSONField

from .fields import MassField, SecondsField, UtcField
from .models import Editable, KitItem


class SieveSample(Editable):
    """One shaken stack of one dial (a burr set, or a grinder without one) at a setting, or a table read in (source "table": fractions of 100 g). fractions: [aperture µm, g], the
    pan first; what was weighed in comes off the coffee's stock, a table's does not. replicate: given once among samples of its dial, setting, coffee and stack."""

    dial = pw.ForeignKeyField(KitItem, backref="+")
    setting = MassField()
    coffee = pw.ForeignKeyField(KitItem, backref="+", null=True)
    stack = pw.ForeignKeyField(KitItem, backref="+", null=True)
    mass_in_g = MassField()
    fractions = JSONField()
    scale_step_g = MassField()
    shaken_s = SecondsField(null=True)
    shaken_how = pw.CharField(80, default="")
    replicate = pw.IntegerField()
    source = pw.CharField(12)
    sampled_on = pw.DateField()
    note = pw.CharField(200, default="")
    created_by = pw.CharField(12, null=True)


class GrinderDose(Editable):
    """One dose through a grinder: timed, weighed out, or both. Masses g; mess and chaff 1 (none) to 5."""

    dial = pw.ForeignKeyField(KitItem, backref="+")
    setting = MassField(null=True)
    feeding = pw.CharField(12)
    beans_in_g = MassField()
    ground_out_g = MassField(null=True)
    grinding_s = SecondsField(null=True)
    knocked_out_g = MassField(null=True)
    next_in_g = MassField(null=True)
    next_out_g = MassField(null=True)
    chaff = pw.IntegerField(null=True)
    mess = pw.IntegerField(null=True)
    note = pw.CharField(200, default="")
    source = pw.CharField(12)
    at = UtcField()
    created_by = pw.CharField(12, null=True)


class FilterTest(Editable):
    """Water through a filter under a push: N (push "force") or mm of water ("head"). dry_g, wet_g: of the filter before and after; sediment 1 (none) to 5."""

    filter = pw.ForeignKeyField(KitItem, backref="+")
    push = pw.CharField(8)
    size = MassField()
    water_g = MassField()
    seconds = SecondsField()
    dry_g = MassField(null=True)
    wet_g = MassField(null=True)
    sediment = pw.IntegerField(null=True)
    note = pw.CharField(200, default="")
    source = pw.CharField(12)
    at = UtcField()
    created_by = pw.CharField(12, null=True)


GRINDING = (SieveSample, GrinderDose, FilterTest)
