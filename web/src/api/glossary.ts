// Written by `python -m brasspenny.openapi` from core/glossary.py; change it there.
export const GLOSSARY = [
 {
  "code": "dose",
  "label": "Dose",
  "meaning": "Ground coffee put in the brewer, as weighed.",
  "formula": "",
  "unit": "g",
  "also": [
   "D"
  ]
 },
 {
  "code": "brew_water",
  "label": "Brew water",
  "meaning": "Water poured onto the coffee, all pours added up. Water added to the finished drink is bypass.",
  "formula": "",
  "unit": "g",
  "also": [
   "water in",
   "W"
  ]
 },
 {
  "code": "bypass",
  "label": "Bypass",
  "meaning": "Water added to the finished drink, never through the bed. It dilutes and extracts nothing.",
  "formula": "",
  "unit": "g",
  "also": [
   "Y",
   "dilution"
  ]
 },
 {
  "code": "beverage",
  "label": "Beverage mass",
  "meaning": "The drink in the cup or server once the drips have ended, bypass included.",
  "formula": "",
  "unit": "g",
  "also": [
   "drink out",
   "B"
  ]
 },
 {
  "code": "tds",
  "label": "TDS, strength",
  "meaning": "Dissolved solids as a share of the drink: how strong it is. Read with a refractometer from a mixed, cooled sample. The mineral content of water, in ppm, is another quantity.",
  "formula": "dissolved solids / beverage mass",
  "unit": "% by mass",
  "also": [
   "strength",
   "total dissolved solids",
   "refractometer"
  ]
 },
 {
  "code": "ey",
  "label": "Extraction yield",
  "meaning": "The share of the dose that was dissolved. Two methods count it differently and are never mixed in one comparison.",
  "formula": "dissolved solids / dose",
  "unit": "% of the dose",
  "also": [
   "EY",
   "yield"
  ]
 },
 {
  "code": "in_cup",
  "label": "In-cup yield",
  "meaning": "Counts only the solids that reached the cup. Usual for drippers and baskets, where the water runs through.",
  "formula": "TDS × beverage mass / dose",
  "unit": "% of the dose",
  "also": [
   "percolation"
  ]
 },
 {
  "code": "full_liquor",
  "label": "Full-liquor yield",
  "meaning": "Counts the solids in the liquid held back by the grounds too, at the strength of the drink. Usual for press-pots and other full immersion; reads several points higher than the in-cup yield of the same brew.",
  "formula": "TDS × brew water / ((1 − TDS) × dose)",
  "unit": "% of the dose",
  "also": [
   "immersion"
  ]
 },
 {
  "code": "ratio",
  "label": "Brew ratio",
  "meaning": "Water in, bypass included, for each gram of coffee. 1:16 is 16 g of water to 1 g of coffee. A ratio of the drink out is another figure.",
  "formula": "(brew water + bypass) / dose",
  "unit": "1:R",
  "also": [
   "1:16",
   "g/L"
  ]
 },
 {
  "code": "retained",
  "label": "Retained water",
  "meaning": "Water that stays in the grounds and the filter, for each gram of dose.",
  "formula": "(brew water − water in the drink) / dose",
  "unit": "g/g",
  "also": [
   "retained water ratio",
   "absorption"
  ]
 },
 {
  "code": "bloom",
  "label": "Bloom",
  "meaning": "The first small pour and its wait: it wets the bed and lets the gas out.",
  "formula": "",
  "unit": "g and s",
  "also": []
 },
 {
  "code": "drawdown",
  "label": "Drawdown",
  "meaning": "From the end of the last pour until the bed stops draining.",
  "formula": "",
  "unit": "s",
  "also": []
 },
 {
  "code": "setup",
  "label": "Setup",
  "meaning": "One complete combination that can be brewed: coffee, grinder and setting, filter, brewer, water, recipe. A trial compares two or more, called A, B, C.",
  "formula": "",
  "unit": "",
  "also": []
 },
 {
  "code": "held",
  "label": "Held",
  "meaning": "The same in every setup, so that it cannot explain a difference between them.",
  "formula": "",
  "unit": "",
  "also": []
 },
 {
  "code": "crack",
  "label": "Crack",
  "meaning": "An uncontrolled difference: something besides what is tested differs between the setups and nobody has declared it. It could get the credit, so the trial is not fair until it is held equal or declared.",
  "formula": "",
  "unit": "",
  "also": [
   "confound",
   "undeclared difference"
  ]
 },
 {
  "code": "doubt",
  "label": "Doubt",
  "meaning": "Something that makes the answer less certain, such as single brews or few tasters. A crack could fake the answer; a doubt widens it; a note is worth knowing.",
  "formula": "",
  "unit": "",
  "also": [
   "note",
   "margin",
   "caveat"
  ]
 },
 {
  "code": "design",
  "label": "Design",
  "meaning": "How sound the way of asking was, from anecdote to sound, whatever the result: blind or not, how many tasters, repeated brews, equal temperatures.",
  "formula": "",
  "unit": "",
  "also": [
   "evidence",
   "grade",
   "fair",
   "weak"
  ]
 },
 {
  "code": "dial_in",
  "label": "Dial-in",
  "meaning": "A brew that gets a setup ready: adjusted until it meets its recipe’s targets. It is kept and never counts as evidence.",
  "formula": "",
  "unit": "",
  "also": [
   "dial-in brew"
  ]
 },
 {
  "code": "counts",
  "label": "Brews that count",
  "meaning": "Brews made for the comparison. Each setup is brewed at least twice, so that the setup can be told from the pour.",
  "formula": "",
  "unit": "",
  "also": [
   "evidence",
   "replicate"
  ]
 },
 {
  "code": "flight",
  "label": "Flight",
  "meaning": "One sitting in which tasters score a set of coded cups.",
  "formula": "",
  "unit": "",
  "also": []
 },
 {
  "code": "pass",
  "label": "Pass",
  "meaning": "One round of tasting at one temperature: hot, warm or cool. Cups change as they cool, and the winner can change with them.",
  "formula": "",
  "unit": "°C",
  "also": []
 },
 {
  "code": "blind",
  "label": "Blind",
  "meaning": "Tasters see a three-digit code and nothing else. Which code hides which brew is known to nobody at the table until the flip.",
  "formula": "",
  "unit": "",
  "also": [
   "code",
   "shuffle",
   "runner"
  ]
 },
 {
  "code": "seal",
  "label": "Seal",
  "meaning": "When a runner pours, the key is locked and its fingerprint published before the first sip, so that afterwards anybody can check that it was not changed.",
  "formula": "",
  "unit": "",
  "also": [
   "commitment",
   "hash"
  ]
 },
 {
  "code": "flip",
  "label": "Flip",
  "meaning": "Turning the pennies over: scores are locked first, then the key is entered or opened and everybody sees which cup was which.",
  "formula": "",
  "unit": "",
  "also": []
 },
 {
  "code": "liking",
  "label": "Liking",
  "meaning": "How much a taster likes a cup, from 1 to 9, given before any attribute so that it is not coloured by them.",
  "formula": "",
  "unit": "of 9",
  "also": []
 },
 {
  "code": "jar",
  "label": "Just about right",
  "meaning": "Whether an attribute is too little, just about right or too much for this taster. It says which way to change a brew; liking says how good it is.",
  "formula": "",
  "unit": "",
  "also": [
   "JAR"
  ]
 },
 {
  "code": "triangle",
  "label": "Triangle test",
  "meaning": "Three cups, two of them the same brew: which one is odd? Guessing finds it one time in three.",
  "formula": "guessing: 1 in 3",
  "unit": "",
  "also": []
 },
 {
  "code": "two_afc",
  "label": "2-AFC",
  "meaning": "Two cups, one question: which has more of a named attribute? Guessing is right one time in two.",
  "formula": "guessing: 1 in 2",
  "unit": "",
  "also": [
   "two-alternative forced choice"
  ]
 },
 {
  "code": "duplicate",
  "label": "Hidden duplicate",
  "meaning": "The same brew under two codes. How far its two scores lie apart says how well a taster repeats themselves.",
  "formula": "",
  "unit": "",
  "also": []
 },
 {
  "code": "interval",
  "label": "95 % interval",
  "meaning": "The range in which the true value lies with 95 % probability, given the data and what is assumed beforehand. Two overlapping intervals do not by themselves mean that nothing differs: read the difference.",
  "formula": "",
  "unit": "",
  "also": [
   "confidence",
   "credible interval",
   "±"
  ]
 },
 {
  "code": "least_difference",
  "label": "Smallest difference that matters",
  "meaning": "A lead below this is a practical tie: real, perhaps, and not worth changing anything for.",
  "formula": "",
  "unit": "points of 9",
  "also": [
   "practical tie",
   "equivalent"
  ]
 },
 {
  "code": "chance_best",
  "label": "Chance of being best",
  "meaning": "How probable it is, after these scores, that this setup is the one people like most.",
  "formula": "",
  "unit": "%",
  "also": [
   "probability best"
  ]
 },
 {
  "code": "risk",
  "label": "Risk of choosing it",
  "meaning": "How many points of liking are given away on average if it is chosen and another was really better.",
  "formula": "",
  "unit": "points of 9",
  "also": [
   "expected regret",
   "loss"
  ]
 },
 {
  "code": "own_scatter",
  "label": "Scatter",
  "meaning": "How far scores lie apart although nothing differs: between tasters, between brews of one setup, from one score to the next. A verdict starts from what this bench’s earlier blind flights showed of it, or from what is usual; the second keeps a fifth of the say, so that an unusual panel is not held to the past.",
  "formula": "",
  "unit": "points of 9",
  "also": [
   "learnt scatter",
   "noise",
   "spread"
  ]
 },
 {
  "code": "power",
  "label": "What a panel can detect",
  "meaning": "The lead that would be called in four of five trials with this many brews and tasters. A smaller one will usually end as not enough evidence.",
  "formula": "",
  "unit": "points of 9",
  "also": [
   "power",
   "sees a lead"
  ]
 },
 {
  "code": "matched",
  "label": "Matched strength",
  "meaning": "The stronger cups are thinned to the strength of the weakest before tasting, so that flavour is compared and not strength. Used when the question is about equipment.",
  "formula": "",
  "unit": "",
  "also": []
 },
 {
  "code": "block",
  "label": "Block",
  "meaning": "Brews made together, so that whatever drifts over the day falls on every setup alike.",
  "formula": "",
  "unit": "",
  "also": [
   "blocking",
   "replicate"
  ]
 },
 {
  "code": "interaction",
  "label": "Interaction",
  "meaning": "One factor’s effect depends on another: a filter that helps one coffee and hurts a second.",
  "formula": "",
  "unit": "",
  "also": []
 },
 {
  "code": "retention",
  "label": "Retention",
  "meaning": "Coffee that stays inside the grinder and comes out with the next dose.",
  "formula": "(in − out) / in",
  "unit": "g and %",
  "also": []
 },
 {
  "code": "zero_point",
  "label": "Zero point",
  "meaning": "The dial setting at which the burrs touch. Settings of two grinders can be compared only from there, and never by their number alone.",
  "formula": "",
  "unit": "",
  "also": [
   "burrs touch"
  ]
 },
 {
  "code": "d50",
  "label": "d50, sieve median",
  "meaning": "The size that half of the ground mass is finer than. d10 and d90 likewise for a tenth and nine tenths.",
  "formula": "",
  "unit": "µm",
  "also": [
   "d10",
   "d90",
   "median",
   "particle size"
  ]
 },
 {
  "code": "span",
  "label": "Span",
  "meaning": "How wide a grind spreads around its median.",
  "formula": "(d90 − d10) / d50",
  "unit": "",
  "also": [
   "spread of a grind"
  ]
 },
 {
  "code": "resolution",
  "label": "Refractometer resolution",
  "meaning": "The smallest step its display shows. The accuracy is how far a reading may lie from the truth; the wider of the two, with the scatter of readings, makes the interval.",
  "formula": "",
  "unit": "% TDS",
  "also": [
   "accuracy",
   "steps"
  ]
 },
 {
  "code": "brix",
  "label": "°Brix",
  "meaning": "What a plain optical refractometer shows. About 0.85 times that is % TDS, with a wider interval.",
  "formula": "TDS ≈ 0.85 × °Brix",
  "unit": "°Brix",
  "also": []
 },
 {
  "code": "hardness",
  "label": "Hardness and alkalinity",
  "meaning": "Hardness: calcium and magnesium in the water, which help to extract. Alkalinity: what buffers the acidity of the cup. They are given as if all were calcium carbonate.",
  "formula": "",
  "unit": "mg/L as CaCO₃",
  "also": [
   "water",
   "°dH",
   "buffer"
  ]
 },
 {
  "code": "lead",
  "label": "Lead",
  "meaning": "How far the best-liked setup stands above the next one.",
  "formula": "",
  "unit": "points of 9",
  "also": []
 },
 {
  "code": "camps",
  "label": "Two camps",
  "meaning": "Tasters who like different setups best, more than chance explains. The average then pleases nobody, so the camps are reported apart.",
  "formula": "",
  "unit": "",
  "also": [
   "segments",
   "groups of tasters"
  ]
 },
 {
  "code": "windows",
  "label": "Recipe targets",
  "meaning": "The ranges a recipe asks for: total time, strength, yield. A brew outside them was not brewed as meant.",
  "formula": "",
  "unit": "",
  "also": [
   "windows",
   "targets"
  ]
 }
] as const;
