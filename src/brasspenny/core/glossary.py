"""The terms of the job, each explained once: the interface shows a term's paragraph at a touch, and all of them on one page.

Units and formulas are those of docs/formulas.md; a term that the program does not use on a screen has no place here.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Term:
    """code: as screens refer to it; also: other names people search for it by; meaning: one paragraph; formula, unit: '' where it has none."""

    code: str
    label: str
    meaning: str
    formula: str = ""
    unit: str = ""
    also: tuple[str, ...] = ()


GLOSSARY: tuple[Term, ...] = (
    Term("dose", "Dose", "Ground coffee put in the brewer, as weighed.", unit="g", also=("D",)),
    Term("brew_water", "Brew water", "Water poured onto the coffee, all pours added up. Water added to the finished drink is bypass.", unit="g", also=("water in", "W")),
    Term("bypass", "Bypass", "Water added to the finished drink, never through the bed. It dilutes and extracts nothing.", unit="g", also=("Y", "dilution")),
    Term("beverage", "Beverage mass", "The drink in the cup or server once the drips have ended, bypass included.", unit="g", also=("drink out", "B")),
    Term("tds", "TDS, strength", "Dissolved solids as a share of the drink: how strong it is. Read with a refractometer from a mixed, cooled sample. The mineral content of water, in ppm, is another quantity.", "dissolved solids / beverage mass", "% by mass", ("strength", "total dissolved solids", "refractometer")),
    Term("ey", "Extraction yield", "The share of the dose that was dissolved. Two methods count it differently and are never mixed in one comparison.", "dissolved solids / dose", "% of the dose", ("EY", "yield")),
    Term("in_cup", "In-cup yield", "Counts only the solids that reached the cup. Usual for drippers and baskets, where the water runs through.", "TDS × beverage mass / dose", "% of the dose", ("percolation",)),
    Term("full_liquor", "Full-liquor yield", "Counts the solids in the liquid held back by the grounds too, at the strength of the drink. Usual for press-pots and other full immersion; reads several points higher than the in-cup yield of the same brew.", "TDS × brew water / ((1 − TDS) × dose)", "% of the dose", ("immersion",)),
    Term("ratio", "Brew ratio", "Water in, bypass included, for each gram of coffee. 1:16 is 16 g of water to 1 g of coffee. A ratio of the drink out is another figure.", "(brew water + bypass) / dose", "1:R", ("1:16", "g/L")),
    Term("retained", "Retained water", "Water that stays in the grounds and the filter, for each gram of dose.", "(brew water − water in the drink) / dose", "g/g", ("retained water ratio", "absorption")),
    Term("bloom", "Bloom", "The first small pour and its wait: it wets the bed and lets the gas out.", unit="g and s"),
    Term("drawdown", "Drawdown", "From the end of the last pour until the bed stops draining.", unit="s"),
    Term("setup", "Setup", "One complete combination that can be brewed: coffee, grinder and setting, filter, brewer, water, recipe. A trial compares two or more, called A, B, C."),
    Term("held", "Held", "The same in every setup, so that it cannot explain a difference between them."),
    Term("crack", "Crack", "An uncontrolled difference: something besides what is tested differs between the setups and nobody has declared it. It could get the credit, so the trial is not fair until it is held equal or declared.", also=("confound", "undeclared difference")),
    Term("doubt", "Doubt", "Something that makes the answer less certain, such as single brews or few tasters. A crack could fake the answer; a doubt widens it; a note is worth knowing.", also=("note", "margin", "caveat")),
    Term("design", "Design", "How sound the way of asking was, from anecdote to sound, whatever the result: blind or not, how many tasters, repeated brews, equal temperatures.", also=("evidence", "grade", "fair", "weak")),
    Term("dial_in", "Dial-in", "A brew that gets a setup ready: adjusted until it meets its recipe’s targets. It is kept and never counts as evidence.", also=("dial-in brew",)),
    Term("counts", "Brews that count", "Brews made for the comparison. Each setup is brewed at least twice, so that the setup can be told from the pour.", also=("evidence", "replicate")),
    Term("flight", "Flight", "One sitting in which tasters score a set of coded cups."),
    Term("pass", "Pass", "One round of tasting at one temperature: hot, warm or cool. Cups change as they cool, and the winner can change with them.", unit="°C"),
    Term("blind", "Blind", "Tasters see a three-digit code and nothing else. Which code hides which brew is known to nobody at the table until the flip.", also=("code", "shuffle", "runner")),
    Term("seal", "Seal", "When a runner pours, the key is locked and its fingerprint published before the first sip, so that afterwards anybody can check that it was not changed.", also=("commitment", "hash")),
    Term("flip", "Flip", "Turning the pennies over: scores are locked first, then the key is entered or opened and everybody sees which cup was which."),
    Term("liking", "Liking", "How much a taster likes a cup, from 1 to 9, given before any attribute so that it is not coloured by them.", unit="of 9"),
    Term("jar", "Just about right", "Whether an attribute is too little, just about right or too much for this taster. It says which way to change a brew; liking says how good it is.", also=("JAR",)),
    Term("triangle", "Triangle test", "Three cups, two of them the same brew: which one is odd? Guessing finds it one time in three.", "guessing: 1 in 3"),
    Term("two_afc", "2-AFC", "Two cups, one question: which has more of a named attribute? Guessing is right one time in two.", "guessing: 1 in 2", also=("two-alternative forced choice",)),
    Term("duplicate", "Hidden duplicate", "The same brew under two codes. How far its two scores lie apart says how well a taster repeats themselves."),
    Term("interval", "95 % interval", "The range in which the true value lies with 95 % probability, given the data and what is assumed beforehand. Two overlapping intervals do not by themselves mean that nothing differs: read the difference.", also=("confidence", "credible interval", "±")),
    Term("least_difference", "Smallest difference that matters", "A lead below this is a practical tie: real, perhaps, and not worth changing anything for.", unit="points of 9", also=("practical tie", "equivalent")),
    Term("chance_best", "Chance of being best", "How probable it is, after these scores, that this setup is the one people like most.", unit="%", also=("probability best",)),
    Term("risk", "Risk of choosing it", "How many points of liking are given away on average if it is chosen and another was really better.", unit="points of 9", also=("expected regret", "loss")),
    Term("own_scatter", "Scatter", "How far scores lie apart although nothing differs: between tasters, between brews of one setup, from one score to the next. A verdict starts from what this bench’s earlier blind flights showed of it, or from what is usual; the second keeps a fifth of the say, so that an unusual panel is not held to the past.", unit="points of 9", also=("learnt scatter", "noise", "spread")),
    Term("power", "What a panel can detect", "The lead that would be called in four of five trials with this many brews and tasters. A smaller one will usually end as not enough evidence.", unit="points of 9", also=("power", "sees a lead")),
    Term("matched", "Matched strength", "The stronger cups are thinned to the strength of the weakest before tasting, so that flavour is compared and not strength. Used when the question is about equipment."),
    Term("block", "Block", "Brews made together, so that whatever drifts over the day falls on every setup alike.", also=("blocking", "replicate")),
    Term("interaction", "Interaction", "One factor’s effect depends on another: a filter that helps one coffee and hurts a second."),
    Term("retention", "Retention", "Coffee that stays inside the grinder and comes out with the next dose.", "(in − out) / in", "g and %"),
    Term("zero_point", "Zero point", "The dial setting at which the burrs touch. Settings of two grinders can be compared only from there, and never by their number alone.", also=("burrs touch",)),
    Term("d50", "d50, sieve median", "The size that half of the ground mass is finer than. d10 and d90 likewise for a tenth and nine tenths.", unit="µm", also=("d10", "d90", "median", "particle size")),
    Term("span", "Span", "How wide a grind spreads around its median.", "(d90 − d10) / d50", also=("spread of a grind",)),
    Term("resolution", "Refractometer resolution", "The smallest step its display shows. The accuracy is how far a reading may lie from the truth; the wider of the two, with the scatter of readings, makes the interval.", unit="% TDS", also=("accuracy", "steps")),
    Term("brix", "°Brix", "What a plain optical refractometer shows. About 0.85 times that is % TDS, with a wider interval.", "TDS ≈ 0.85 × °Brix", "°Brix"),
    Term("hardness", "Hardness and alkalinity", "Hardness: calcium and magnesium in the water, which help to extract. Alkalinity: what buffers the acidity of the cup. They are given as if all were calcium carbonate.", unit="mg/L as CaCO₃", also=("water", "°dH", "buffer")),
    Term("lead", "Lead", "How far the best-liked setup stands above the next one.", unit="points of 9"),
    Term("camps", "Two camps", "Tasters who like different setups best, more than chance explains. The average then pleases nobody, so the camps are reported apart.", also=("segments", "groups of tasters")),
    Term("windows", "Recipe targets", "The ranges a recipe asks for: total time, strength, yield. A brew outside them was not brewed as meant.", also=("windows", "targets")),
)  # fmt: skip
