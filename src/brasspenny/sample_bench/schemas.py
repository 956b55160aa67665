"""HTTP shapes of the sample bench."""

from __future__ import annotations

from ..http import Answer, Changes


class SamplePatch(Changes):
    in_sample: bool


class SampleAnswer(Answer):
    """exists: there is a sample bench beside the bench's own; in_sample: this device works there."""

    exists: bool
    in_sample: bool
