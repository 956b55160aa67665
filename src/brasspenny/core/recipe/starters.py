"""One recipe for each main way of brewing, to start from. Our own numbers and wording, written in the language of `reading`."""

from __future__ import annotations

from dataclasses import dataclass

from .model import Recipe
from .reading import read


@dataclass(frozen=True)
class Starter:
    """text: in the recipe language; about: when to choose it."""

    code: str
    name: str
    about: str
    text: str

    @property
    def recipe(self) -> Recipe:
        return read(self.text).recipe


STARTERS: tuple[Starter, ...] = (
    Starter(
        "cone_pulses", "Cone, three pulses", "Clear and lively; the pours set the pace.",
        '17 g coffee, 272 g water, 1:16, at 94 °C, in a cone dripper, grind "medium-fine", rinse the filter, put in the coffee, make a well, bloom 45 g for 0:40 in a spiral, pour to 125 g in a spiral from 0:40 over 0:20, '
        'pour to 200 g in a spiral from 1:10 over 0:15, pour to 272 g in the centre from 1:35 over 0:15, swirl 1 times, drips stop, done between 2:30 and 3:10, target 1.25-1.45 % TDS, too fast "thin and sour", too slow "drying"',
    ),
    Starter(
        "flat_bed_centre", "Flat bed, centre pulses", "Even and sweet; centre pours keep the flow high with a fine grind.",
        '18 g coffee, 290 g water, at 93 °C, in a flat bed, grind "medium", rinse the filter, put in the coffee, level the bed, bloom 50 g for 0:45, pour to 130 g in the centre from 0:45 over 0:15, '
        "pour to 210 g in the centre from 1:15 over 0:15, pour to 290 g in the centre from 1:45 over 0:15, drips stop, done between 2:40 and 3:20",
    ),
    Starter(
        "single_slow_bypass", "One slow pour, then bypass", "A strong short brew, let down to taste: gentle, hard to clog.",
        '20 g coffee, 1:16, at 91 °C, in a cone dripper, grind "medium", rinse the filter, put in the coffee, pour to 220 g in the centre over 1:50, drips stop, done by 2:50, bypass 100 g at 90 °C, stir the server',
    ),
    Starter(
        "paperless_mesh", "Paperless mesh", "Heavy body, oils and fines pass; let it settle and leave the last of it.",
        '20 g coffee, 320 g water, at 94 °C, in a mesh cylinder, filter "metal mesh", grind "medium", put in the coffee, level the bed, bloom 50 g for 0:40, pour to 185 g in a spiral over 0:30, pour to 320 g in the centre over 0:35, '
        'drips stop, done between 2:30 and 3:30, settle for 2:00, serve note "leave the last of it in the server"',
    ),
    Starter(
        "press_pot_skimmed", "Press-pot, broken and skimmed", "Full liquor with little grit: crust broken, foam skimmed, plunger kept on top.",
        '30 g coffee, 480 g water, at 95 °C, in a press-pot, grind "medium-coarse", preheat, put in the coffee, pour to 480 g over 0:40, wait by 4:00, break the crust, skim, wait by 8:00 when "grounds have sunk", serve, ends on time, done by 8:30',
    ),
    Starter(
        "piston_upright", "Piston press, upright", "Small, clean and quick; a gentle press ends it.",
        '15 g coffee, 225 g water, at 88 °C, in a piston press, filter "paper", grind "fine-medium", rinse the filter, put in the coffee, pour to 225 g over 0:20, stir 5 times, lid on, wait by 1:40, press gently for 0:30, serve, ends on time, done by 2:30',
    ),
    Starter(
        "piston_inverted", "Piston press, inverted", "A concentrate with nothing dripping through early; turned over before pressing.",
        '18 g coffee, 70 g water, at 86 °C, in a piston press, filter "paper", grind "fine", put in the coffee, pour to 70 g over 0:12, stir 10 times, wait by 1:20, lid on, invert, press gently for 0:25, serve, ends on time, done by 2:10',
    ),
    Starter(
        "steep_then_drip", "Steep, then drip", "Forgiving: steeped like a press-pot, drained through paper.",
        '18 g coffee, 288 g water, at 94 °C, in a steep and release, grind "medium", rinse the filter, put in the coffee, pour to 288 g over 0:30, stir 3 times, lid on, wait by 2:00, open the valve, drips stop, done between 2:50 and 3:40',
    ),
)  # fmt: skip
