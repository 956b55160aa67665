// Written by `python -m brasspenny.openapi` from core/vocabulary.py; change it there.
export const YIELD_BASES = [
 {
  "code": "in_cup",
  "label": "in-cup yield"
 },
 {
  "code": "full_liquor",
  "label": "full-liquor yield"
 }
] as const;
export const BREWER_KINDS = [
 {
  "code": "cone",
  "label": "cone dripper",
  "yield_basis": "in_cup",
  "ends": [
   "drips_stop",
   "lifted"
  ],
  "retained_g_g": 2.1,
  "steeped": false,
  "valved": false,
  "fines_pass": false,
  "lasting": false,
  "topples": true
 },
 {
  "code": "flat_bed",
  "label": "flat bed",
  "yield_basis": "in_cup",
  "ends": [
   "drips_stop",
   "lifted"
  ],
  "retained_g_g": 2.1,
  "steeped": false,
  "valved": false,
  "fines_pass": false,
  "lasting": false,
  "topples": true
 },
 {
  "code": "mesh_cylinder",
  "label": "mesh cylinder",
  "yield_basis": "in_cup",
  "ends": [
   "drips_stop",
   "lifted"
  ],
  "retained_g_g": 2.1,
  "steeped": false,
  "valved": false,
  "fines_pass": true,
  "lasting": true,
  "topples": true
 },
 {
  "code": "press_pot",
  "label": "press-pot",
  "yield_basis": "full_liquor",
  "ends": [
   "poured_off",
   "pressed"
  ],
  "retained_g_g": 2.1,
  "steeped": true,
  "valved": false,
  "fines_pass": true,
  "lasting": true,
  "topples": false
 },
 {
  "code": "piston_press",
  "label": "piston press",
  "yield_basis": "in_cup",
  "ends": [
   "pressed"
  ],
  "retained_g_g": 2.1,
  "steeped": true,
  "valved": false,
  "fines_pass": true,
  "lasting": true,
  "topples": false
 },
 {
  "code": "steep_and_release",
  "label": "steep and release",
  "yield_basis": "in_cup",
  "ends": [
   "valve_opened",
   "drips_stop"
  ],
  "retained_g_g": 2.1,
  "steeped": false,
  "valved": true,
  "fines_pass": false,
  "lasting": false,
  "topples": true
 },
 {
  "code": "jug_steep",
  "label": "jug steep, then drip",
  "yield_basis": "in_cup",
  "ends": [
   "drips_stop"
  ],
  "retained_g_g": 2.1,
  "steeped": false,
  "valved": true,
  "fines_pass": false,
  "lasting": false,
  "topples": true
 }
] as const;
export const VARIABLES = [
 {
  "field": "coffee",
  "label": "Coffee",
  "unit": ""
 },
 {
  "field": "grinder",
  "label": "Grinder and burrs",
  "unit": ""
 },
 {
  "field": "grind_setting",
  "label": "Grind setting",
  "unit": ""
 },
 {
  "field": "filter",
  "label": "Filter",
  "unit": ""
 },
 {
  "field": "brewer",
  "label": "Brewer",
  "unit": ""
 },
 {
  "field": "water",
  "label": "Water",
  "unit": ""
 },
 {
  "field": "temperature_c",
  "label": "Temperature",
  "unit": "°C"
 },
 {
  "field": "dose_g",
  "label": "Dose",
  "unit": "g"
 },
 {
  "field": "brew_water_g",
  "label": "Brew water",
  "unit": "g"
 },
 {
  "field": "bypass_g",
  "label": "Bypass water",
  "unit": "g"
 },
 {
  "field": "pours",
  "label": "Pours",
  "unit": ""
 },
 {
  "field": "other",
  "label": "Something else",
  "unit": ""
 }
] as const;
export const FACTOR_KINDS = [
 {
  "code": "ratio",
  "label": "brew ratio",
  "asked": "Brew ratio",
  "tests": "brew_ratio",
  "equipment": false,
  "ladder": "ratio",
  "dialled": false,
  "own_strength": true,
  "words": "ratio ratios dose doses"
 },
 {
  "code": "grind_setting",
  "label": "grind setting",
  "asked": "Grind setting",
  "tests": "grind_setting",
  "equipment": true,
  "ladder": "grind_setting",
  "dialled": false,
  "own_strength": false,
  "words": "grind setting coarser finer coarse fine grinds clicks"
 },
 {
  "code": "grinder",
  "label": "grinder",
  "asked": "Grinder or burrs",
  "tests": "grinder",
  "equipment": true,
  "ladder": "",
  "dialled": true,
  "own_strength": false,
  "words": "grinder grinders mill mills burr burrs plates conical"
 },
 {
  "code": "filter",
  "label": "filter",
  "asked": "Filter",
  "tests": "filter",
  "equipment": true,
  "ladder": "",
  "dialled": true,
  "own_strength": false,
  "words": "filter filters paper papers cloth mesh felt"
 },
 {
  "code": "brewer",
  "label": "brewer",
  "asked": "Brewer",
  "tests": "brewer",
  "equipment": true,
  "ladder": "",
  "dialled": true,
  "own_strength": false,
  "words": "brewer brewers dripper drippers cone cones press pot bed"
 },
 {
  "code": "temperature",
  "label": "temperature",
  "asked": "Temperature",
  "tests": "temperature_c",
  "equipment": false,
  "ladder": "temperature_c",
  "dialled": false,
  "own_strength": false,
  "words": "temperature temperatures hot hotter cooler colder degrees boiling °c °f"
 },
 {
  "code": "coffee",
  "label": "coffee",
  "asked": "Coffee",
  "tests": "coffee",
  "equipment": false,
  "ladder": "",
  "dialled": true,
  "own_strength": false,
  "words": "coffee coffees bean beans lot lots roast roasts roaster origin blend"
 },
 {
  "code": "water",
  "label": "water",
  "asked": "Water",
  "tests": "water",
  "equipment": false,
  "ladder": "",
  "dialled": true,
  "own_strength": false,
  "words": "water waters mineral tap hardness"
 },
 {
  "code": "strength",
  "label": "strength",
  "asked": "Strength, by bypass water",
  "tests": "bypass_g",
  "equipment": false,
  "ladder": "tds_pct",
  "dialled": false,
  "own_strength": true,
  "words": "strength stronger weaker bypass dilute"
 },
 {
  "code": "extraction",
  "label": "extraction",
  "asked": "Extraction, by the grind",
  "tests": "grind_setting",
  "equipment": true,
  "ladder": "ey_pct",
  "dialled": false,
  "own_strength": false,
  "words": "extraction yield extract"
 },
 {
  "code": "pours",
  "label": "pours",
  "asked": "Pour pattern",
  "tests": "pours",
  "equipment": false,
  "ladder": "",
  "dialled": false,
  "own_strength": false,
  "words": "pour pours pouring bloom pulse pulses"
 },
 {
  "code": "other",
  "label": "something else",
  "asked": "Something else",
  "tests": "other",
  "equipment": false,
  "ladder": "",
  "dialled": false,
  "own_strength": false,
  "words": "kettle kettles gooseneck spout"
 }
] as const;
export const MATCHING_RULES = [
 {
  "code": "sieve_median",
  "label": "matched by sieve median"
 },
 {
  "code": "brew_time",
  "label": "matched by brew time"
 },
 {
  "code": "yield",
  "label": "matched by extraction yield"
 },
 {
  "code": "strength",
  "label": "matched by strength"
 },
 {
  "code": "recipe",
  "label": "set as the recipe says"
 },
 {
  "code": "makers_table",
  "label": "matched by the maker's table"
 },
 {
  "code": "by_eye",
  "label": "matched by eye"
 },
 {
  "code": "accepted",
  "label": "differs, and accepted"
 }
] as const;
export const MATCH_KINDS = [
 {
  "code": "sieve_median",
  "label": "sieve median",
  "least_steps": 1.0,
  "measured": true,
  "sampled": true
 },
 {
  "code": "brew_time",
  "label": "brew time",
  "least_steps": 1.5,
  "measured": true,
  "sampled": false
 },
 {
  "code": "yield",
  "label": "extraction yield",
  "least_steps": 1.5,
  "measured": true,
  "sampled": false
 },
 {
  "code": "recipe",
  "label": "as the recipe says",
  "least_steps": 3.0,
  "measured": false,
  "sampled": false
 },
 {
  "code": "by_eye",
  "label": "by eye",
  "least_steps": 4.0,
  "measured": false,
  "sampled": false
 }
] as const;
export const USUAL_MATCH = "by_eye" as const;
export const FEEDINGS = [
 {
  "code": "single_dose",
  "label": "Single dose"
 },
 {
  "code": "hopper",
  "label": "Hopper"
 }
] as const;
export const PUSHES = [
 {
  "code": "head",
  "label": "Dripping, under a head",
  "asked": "A head of water",
  "size": "Height of the water",
  "unit": "mm",
  "how": "under a head"
 },
 {
  "code": "force",
  "label": "Pressed, at a force",
  "asked": "A press",
  "size": "Force, by the scale under it",
  "unit": "N",
  "how": "pressed"
 }
] as const;
export const TABLE_KINDS = [
 {
  "code": "finer",
  "label": "cumulative, finer than"
 },
 {
  "code": "coarser",
  "label": "cumulative, coarser than"
 },
 {
  "code": "each",
  "label": "share of each size"
 }
] as const;
export const PURPOSES = [
 {
  "code": "evidence",
  "label": "counts for the comparison"
 },
 {
  "code": "dial_in",
  "label": "dial-in"
 },
 {
  "code": "loose",
  "label": "loose brew"
 }
] as const;
export const ENDINGS = [
 {
  "code": "drips_stop",
  "label": "when the drips stop",
  "ask": "Watch for the last drip",
  "done": "Drips stopped",
  "passive": true
 },
 {
  "code": "lifted",
  "label": "lifted at a time",
  "ask": "Lift the brewer",
  "done": "Lifted",
  "passive": false
 },
 {
  "code": "pressed",
  "label": "when it is pressed",
  "ask": "Press until it hisses",
  "done": "Pressed",
  "passive": false
 },
 {
  "code": "valve_opened",
  "label": "when the valve is opened",
  "ask": "Open the valve",
  "done": "Opened",
  "passive": false
 },
 {
  "code": "poured_off",
  "label": "when it is poured off",
  "ask": "Pour it off",
  "done": "Poured off",
  "passive": false
 }
] as const;
export const POUR_PATTERNS = [
 {
  "code": "centre",
  "label": "in the centre"
 },
 {
  "code": "spiral",
  "label": "in a spiral"
 },
 {
  "code": "spiral_out",
  "label": "in a spiral outwards"
 },
 {
  "code": "spiral_in",
  "label": "in a spiral inwards"
 },
 {
  "code": "edge",
  "label": "at the edge"
 },
 {
  "code": "edge_to_centre",
  "label": "from the edge to the centre"
 },
 {
  "code": "steady",
  "label": "in one steady stream"
 }
] as const;
export const STEPS = [
 {
  "code": "rinse",
  "label": "Rinse the filter",
  "verb": "rinse the filter",
  "usual_s": 20,
  "takes": [
   "heat"
  ],
  "on_coffee": false,
  "prepares": true,
  "hands_free": false,
  "after": false,
  "hot": true
 },
 {
  "code": "preheat",
  "label": "Preheat",
  "verb": "preheat",
  "usual_s": 20,
  "takes": [
   "heat"
  ],
  "on_coffee": false,
  "prepares": true,
  "hands_free": false,
  "after": false,
  "hot": true
 },
 {
  "code": "dose",
  "label": "Put in the coffee",
  "verb": "put in the coffee",
  "usual_s": 10,
  "takes": [],
  "on_coffee": false,
  "prepares": true,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "level",
  "label": "Level the bed",
  "verb": "level the bed",
  "usual_s": 5,
  "takes": [],
  "on_coffee": false,
  "prepares": true,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "well",
  "label": "Make a well",
  "verb": "make a well",
  "usual_s": 5,
  "takes": [],
  "on_coffee": false,
  "prepares": true,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "bloom",
  "label": "Bloom",
  "verb": "bloom",
  "usual_s": 40,
  "takes": [
   "water",
   "where",
   "heat"
  ],
  "on_coffee": true,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": true
 },
 {
  "code": "pour",
  "label": "Pour",
  "verb": "pour",
  "usual_s": null,
  "takes": [
   "water",
   "where",
   "heat"
  ],
  "on_coffee": true,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": true
 },
 {
  "code": "hold_level",
  "label": "Pour to hold the level",
  "verb": "hold the level",
  "usual_s": null,
  "takes": [
   "water",
   "where",
   "heat"
  ],
  "on_coffee": true,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": true
 },
 {
  "code": "wait",
  "label": "Wait",
  "verb": "wait",
  "usual_s": 30,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": true,
  "after": false,
  "hot": false
 },
 {
  "code": "swirl",
  "label": "Swirl",
  "verb": "swirl",
  "usual_s": 5,
  "takes": [
   "count"
  ],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "stir",
  "label": "Stir",
  "verb": "stir",
  "usual_s": 10,
  "takes": [
   "count"
  ],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "lid",
  "label": "Lid on",
  "verb": "lid on",
  "usual_s": 3,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "break_crust",
  "label": "Break the crust",
  "verb": "break the crust",
  "usual_s": 15,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "skim",
  "label": "Skim",
  "verb": "skim",
  "usual_s": 30,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "transfer",
  "label": "Transfer to the dripper",
  "verb": "transfer to the dripper",
  "usual_s": 15,
  "takes": [
   "reading"
  ],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "tap",
  "label": "Tap",
  "verb": "tap",
  "usual_s": 3,
  "takes": [
   "count"
  ],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "press",
  "label": "Press",
  "verb": "press gently",
  "usual_s": 30,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "invert",
  "label": "Invert",
  "verb": "invert",
  "usual_s": 5,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "remove_brewer",
  "label": "Remove the brewer",
  "verb": "remove the brewer",
  "usual_s": 5,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "open_valve",
  "label": "Open the valve",
  "verb": "open the valve",
  "usual_s": 3,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": false,
  "hot": false
 },
 {
  "code": "drain",
  "label": "Let it drain",
  "verb": "drain",
  "usual_s": null,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": true,
  "after": false,
  "hot": false
 },
 {
  "code": "bypass",
  "label": "Add bypass water",
  "verb": "bypass",
  "usual_s": 10,
  "takes": [
   "water",
   "heat"
  ],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": true,
  "hot": true
 },
 {
  "code": "settle",
  "label": "Let it settle",
  "verb": "settle",
  "usual_s": 60,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": true,
  "after": true,
  "hot": false
 },
 {
  "code": "stir_server",
  "label": "Stir the server",
  "verb": "stir the server",
  "usual_s": 5,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": true,
  "hot": false
 },
 {
  "code": "serve",
  "label": "Serve",
  "verb": "serve",
  "usual_s": 10,
  "takes": [],
  "on_coffee": false,
  "prepares": false,
  "hands_free": false,
  "after": true,
  "hot": false
 }
] as const;
export const TEST_METHODS = [
 {
  "code": "scores",
  "label": "Scores",
  "about": "Liking and attributes of every cup: how much better, and in what.",
  "layout": "one_round",
  "guess_rate": null,
  "picks": 0,
  "in_flights": true,
  "posed": "",
  "how": ""
 },
 {
  "code": "ranking",
  "label": "Ranking",
  "about": "Put all cups in order, best first: quick, says nothing of how much.",
  "layout": "one_round",
  "guess_rate": null,
  "picks": 0,
  "in_flights": true,
  "posed": "",
  "how": ""
 },
 {
  "code": "paired",
  "label": "Paired preference",
  "about": "Two cups at a time: which do you prefer?",
  "layout": "rounds",
  "guess_rate": null,
  "picks": 1,
  "in_flights": true,
  "posed": "Which do you prefer?",
  "how": "Taste both. Saying that you do not mind is an answer, too."
 },
 {
  "code": "triangle",
  "label": "Triangle",
  "about": "Three cups, two alike: which is the odd one?",
  "layout": "rounds",
  "guess_rate": 0.3333333333333333,
  "picks": 1,
  "in_flights": true,
  "posed": "Which is the odd one?",
  "how": "Two of the three are alike. Guess if you cannot tell."
 },
 {
  "code": "duo_trio",
  "label": "Duo-trio",
  "about": "A reference and two cups: which is the reference?",
  "layout": "rounds",
  "guess_rate": 0.5,
  "picks": 1,
  "in_flights": true,
  "posed": "Which is the reference?",
  "how": "Taste the reference R first. One of the two is the same. Guess if you cannot tell."
 },
 {
  "code": "two_afc",
  "label": "2-AFC",
  "about": "Two cups: which has more of one named attribute?",
  "layout": "rounds",
  "guess_rate": 0.5,
  "picks": 1,
  "in_flights": true,
  "posed": "Which has more {more}?",
  "how": "Guess if you cannot tell."
 },
 {
  "code": "tetrad",
  "label": "Tetrad",
  "about": "Four cups, two and two alike: which two belong together?",
  "layout": "rounds",
  "guess_rate": 0.3333333333333333,
  "picks": 2,
  "in_flights": true,
  "posed": "Which two belong together?",
  "how": "Two and two are alike. Choose one pair. Guess if you cannot tell."
 },
 {
  "code": "three_afc",
  "label": "3-AFC",
  "about": "Three cups: which has most of one named attribute?",
  "layout": "rounds",
  "guess_rate": 0.3333333333333333,
  "picks": 1,
  "in_flights": false,
  "posed": "",
  "how": ""
 }
] as const;
export const PASSES = [
 {
  "code": "hot",
  "label": "Hot",
  "from_c": 62.0,
  "to_c": 55.0
 },
 {
  "code": "warm",
  "label": "Warm",
  "from_c": 50.0,
  "to_c": 42.0
 },
 {
  "code": "cool",
  "label": "Cool",
  "from_c": 35.0,
  "to_c": 25.0
 }
] as const;
export const USUAL_PASS = "warm" as const;
export const JUDGED_PASSES = [
 {
  "code": "mean",
  "label": "the mean of the passes"
 },
 {
  "code": "hot",
  "label": "the hot pass"
 },
 {
  "code": "warm",
  "label": "the warm pass"
 },
 {
  "code": "cool",
  "label": "the cool pass"
 }
] as const;
export const USUAL_JUDGED_PASS = "mean" as const;
export const ATTRIBUTES = [
 {
  "code": "aroma",
  "label": "Aroma",
  "low": 0,
  "high": 10,
  "step": 1,
  "low_word": "faint",
  "high_word": "strong",
  "usual": false
 },
 {
  "code": "acidity",
  "label": "Acidity",
  "low": 0,
  "high": 10,
  "step": 1,
  "low_word": "low",
  "high_word": "high",
  "usual": true
 },
 {
  "code": "sweetness",
  "label": "Sweetness",
  "low": 0,
  "high": 10,
  "step": 1,
  "low_word": "low",
  "high_word": "high",
  "usual": true
 },
 {
  "code": "bitterness",
  "label": "Bitterness",
  "low": 0,
  "high": 10,
  "step": 1,
  "low_word": "low",
  "high_word": "high",
  "usual": false
 },
 {
  "code": "body",
  "label": "Body",
  "low": 0,
  "high": 10,
  "step": 1,
  "low_word": "light",
  "high_word": "heavy",
  "usual": true
 },
 {
  "code": "clarity",
  "label": "Clarity",
  "low": 0,
  "high": 10,
  "step": 1,
  "low_word": "blurred",
  "high_word": "clear",
  "usual": false
 },
 {
  "code": "finish",
  "label": "Finish",
  "low": 0,
  "high": 10,
  "step": 1,
  "low_word": "short",
  "high_word": "long",
  "usual": false
 },
 {
  "code": "cleanness",
  "label": "Cleanness",
  "low": 0,
  "high": 10,
  "step": 1,
  "low_word": "dirty finish",
  "high_word": "clean finish",
  "usual": false
 }
] as const;
export const LIKING = {
 "code": "liking",
 "label": "Liking",
 "low": 1,
 "high": 9,
 "step": 1,
 "low_word": "dislike extremely",
 "high_word": "like extremely",
 "usual": false
} as const;
export const BLINDINGS = [
 {
  "code": "shuffle",
  "label": "Shuffle",
  "about": "Brews stand in identical servers, marked underneath. Somebody shuffles them out of sight and code cards go in front. The marks are entered after all scores are locked, so nothing here can give a cup away. It works alone, too.",
  "reported": "blind by shuffling",
  "sighted": false,
  "asked": true,
  "elsewhere": false
 },
 {
  "code": "runner",
  "label": "Runner",
  "about": "A helper who does not taste pours by a sheet only their phone opens. The key is sealed before tasting, and its seal can be checked after the flip.",
  "reported": "blind by a runner (the key was sealed before tasting)",
  "sighted": false,
  "asked": true,
  "elsewhere": false
 },
 {
  "code": "open",
  "label": "Open (labelled)",
  "about": "Everybody sees which is which. People often guess wrong once the labels are gone, so these scores are kept apart from blind ones.",
  "reported": "with labels in sight",
  "sighted": true,
  "asked": true,
  "elsewhere": false
 },
 {
  "code": "broken",
  "label": "Seal broken",
  "about": "The key came into sight while it was tasted.",
  "reported": "with the seal broken, so graded sighted",
  "sighted": true,
  "asked": false,
  "elsewhere": false
 },
 {
  "code": "told_blind",
  "label": "Blind, elsewhere",
  "about": "Tasted elsewhere: that labels were hidden is known by word only, and the order of the cups was not set here.",
  "reported": "elsewhere, blind by word",
  "sighted": false,
  "asked": false,
  "elsewhere": true
 },
 {
  "code": "told_open",
  "label": "Labelled, elsewhere",
  "about": "Tasted elsewhere with labels in sight: these scores are kept apart from blind ones.",
  "reported": "elsewhere, with labels in sight",
  "sighted": true,
  "asked": false,
  "elsewhere": true
 }
] as const;
export const KIT_KINDS = [
 {
  "code": "coffee",
  "label": "Coffee",
  "plural": "Coffees",
  "facts": [
   {
    "name": "lot",
    "label": "Lot",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 60,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "origin",
    "label": "Origin",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 80,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "variety",
    "label": "Variety",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 80,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "process",
    "label": "Process",
    "form": "text",
    "unit": "",
    "hint": "washed, natural, honey…",
    "low": null,
    "high": null,
    "above": false,
    "longest": 60,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "species",
    "label": "Species",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "arabica",
      "Arabica"
     ],
     [
      "robusta",
      "Robusta type"
     ],
     [
      "blend",
      "A blend of both"
     ]
    ],
    "default": "arabica",
    "needed": false
   },
   {
    "name": "robusta_share",
    "label": "Robusta share, of a blend",
    "form": "number",
    "unit": "0–1",
    "hint": "",
    "low": 0,
    "high": 1,
    "above": false,
    "longest": 0,
    "options": [],
    "default": 0.3,
    "needed": false
   },
   {
    "name": "roast",
    "label": "Roast",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "light",
      "Light"
     ],
     [
      "medium_light",
      "Medium light"
     ],
     [
      "medium",
      "Medium"
     ],
     [
      "medium_dark",
      "Medium dark"
     ],
     [
      "dark",
      "Dark"
     ]
    ],
    "default": null,
    "needed": false
   },
   {
    "name": "roasted_on",
    "label": "Roasted on",
    "form": "date",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "solubility_note",
    "label": "Density, solubility",
    "form": "text",
    "unit": "",
    "hint": "dense, high grown",
    "low": null,
    "high": null,
    "above": false,
    "longest": 120,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "price_per_kg",
    "label": "Price",
    "form": "number",
    "unit": "per kg",
    "hint": "",
    "low": 0,
    "high": 1000000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "bag_price",
    "label": "Or price of a bag",
    "form": "number",
    "unit": "",
    "hint": "used where no price per kg is given",
    "low": 0,
    "high": 1000000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "bag_size",
    "label": "A bag holds",
    "form": "number",
    "unit": "",
    "hint": "",
    "low": 0,
    "high": 100000,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "bag_unit",
    "label": "Bag size is in",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "g",
      "grams"
     ],
     [
      "oz",
      "ounces"
     ]
    ],
    "default": null,
    "needed": false
   },
   {
    "name": "published_score",
    "label": "Published score",
    "form": "number",
    "unit": "of 100",
    "hint": "",
    "low": 0,
    "high": 100,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "may_hold_alcohol",
    "label": "Barrel-aged: may carry alcohol",
    "form": "yes",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [],
    "default": false,
    "needed": false
   }
  ],
  "named": true
 },
 {
  "code": "grinder",
  "label": "Grinder",
  "plural": "Grinders",
  "facts": [
   {
    "name": "drive",
    "label": "Driven by",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "electric",
      "A motor"
     ],
     [
      "hand",
      "Hand"
     ]
    ],
    "default": "electric",
    "needed": false
   },
   {
    "name": "scale",
    "label": "Dial",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "dial",
      "Numbers"
     ],
     [
      "clicks",
      "Clicks from zero"
     ],
     [
      "marks",
      "Numbers with marks between"
     ],
     [
      "letters",
      "Letters with numbers"
     ],
     [
      "stepless",
      "Stepless"
     ]
    ],
    "default": "dial",
    "needed": false
   },
   {
    "name": "marks",
    "label": "Marks from one number to the next",
    "form": "whole",
    "unit": "",
    "hint": "3: the marks are thirds",
    "low": 2,
    "high": 20,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "direction",
    "label": "A larger number is",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "larger_is_coarser",
      "Coarser"
     ],
     [
      "larger_is_finer",
      "Finer"
     ]
    ],
    "default": "larger_is_coarser",
    "needed": false
   },
   {
    "name": "step",
    "label": "Smallest step",
    "form": "number",
    "unit": "on its dial",
    "hint": "",
    "low": 0,
    "high": 100,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "zero",
    "label": "Zero point",
    "form": "number",
    "unit": "on its dial",
    "hint": "",
    "low": -1000,
    "high": 10000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "finest",
    "label": "Finest usable setting",
    "form": "number",
    "unit": "on its dial",
    "hint": "",
    "low": -1000,
    "high": 10000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "rate_g_s",
    "label": "Speed",
    "form": "number",
    "unit": "g/s",
    "hint": "",
    "low": 0,
    "high": 200,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "retention_g",
    "label": "Retention",
    "form": "number",
    "unit": "g",
    "hint": "",
    "low": 0,
    "high": 100,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "purge_g",
    "label": "Purged before a dose",
    "form": "number",
    "unit": "g",
    "hint": "",
    "low": 0,
    "high": 100,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "price",
    "label": "Price",
    "form": "number",
    "unit": "",
    "hint": "",
    "low": 0,
    "high": 1000000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "note",
    "label": "Note",
    "form": "text",
    "unit": "",
    "hint": "popcorning, mess, how it cleans",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": true
 },
 {
  "code": "burr_set",
  "label": "Burr set",
  "plural": "Burr sets",
  "facts": [
   {
    "name": "grinder_id",
    "label": "Sits in",
    "form": "grinder",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 40,
    "options": [],
    "default": null,
    "needed": true
   },
   {
    "name": "geometry",
    "label": "Geometry",
    "form": "text",
    "unit": "",
    "hint": "flat, 64 mm",
    "low": null,
    "high": null,
    "above": false,
    "longest": 80,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "zero",
    "label": "Zero point",
    "form": "number",
    "unit": "on its dial",
    "hint": "",
    "low": -1000,
    "high": 10000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "finest",
    "label": "Finest usable setting",
    "form": "number",
    "unit": "on its dial",
    "hint": "",
    "low": -1000,
    "high": 10000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "rate_g_s",
    "label": "Speed",
    "form": "number",
    "unit": "g/s",
    "hint": "",
    "low": 0,
    "high": 200,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "price",
    "label": "Price",
    "form": "number",
    "unit": "",
    "hint": "",
    "low": 0,
    "high": 1000000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "note",
    "label": "Note",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": false
 },
 {
  "code": "filter",
  "label": "Filter",
  "plural": "Filters",
  "facts": [
   {
    "name": "material",
    "label": "Material",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "paper",
      "Paper"
     ],
     [
      "mesh",
      "Mesh"
     ],
     [
      "metal",
      "Metal"
     ],
     [
      "cloth",
      "Cloth"
     ]
    ],
    "default": "paper",
    "needed": false
   },
   {
    "name": "thickness",
    "label": "Thickness",
    "form": "text",
    "unit": "",
    "hint": "0.21 mm",
    "low": null,
    "high": null,
    "above": false,
    "longest": 60,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "pores",
    "label": "Pores",
    "form": "text",
    "unit": "",
    "hint": "200 µm",
    "low": null,
    "high": null,
    "above": false,
    "longest": 60,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "size",
    "label": "Size",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 40,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "price_each",
    "label": "Price",
    "form": "number",
    "unit": "each",
    "hint": "",
    "low": 0,
    "high": 1000000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "rinsed",
    "label": "Rinsed before use",
    "form": "yes",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [],
    "default": true,
    "needed": false
   },
   {
    "name": "reusable",
    "label": "Reusable",
    "form": "yes",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [],
    "default": false,
    "needed": false
   },
   {
    "name": "care",
    "label": "Care",
    "form": "text",
    "unit": "",
    "hint": "hot rinse, weekly soak",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": true
 },
 {
  "code": "brewer",
  "label": "Brewer",
  "plural": "Brewers",
  "facts": [
   {
    "name": "brewer_type",
    "label": "Type",
    "form": "brewer_type",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "yield_basis",
    "label": "Yield method",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "in_cup",
      "In-cup yield"
     ],
     [
      "full_liquor",
      "Full-liquor yield"
     ]
    ],
    "default": null,
    "needed": false
   },
   {
    "name": "dose_low_g",
    "label": "Works from",
    "form": "number",
    "unit": "g",
    "hint": "",
    "low": 0,
    "high": 100000,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "dose_high_g",
    "label": "up to",
    "form": "number",
    "unit": "g",
    "hint": "",
    "low": 0,
    "high": 100000,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "volume_ml",
    "label": "Holds",
    "form": "number",
    "unit": "mL",
    "hint": "",
    "low": 0,
    "high": 100000,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "count",
    "label": "How many there are",
    "form": "whole",
    "unit": "",
    "hint": "",
    "low": 1,
    "high": 50,
    "above": false,
    "longest": 0,
    "options": [],
    "default": 1,
    "needed": false
   },
   {
    "name": "outlet",
    "label": "Outlet",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 80,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "material",
    "label": "Material",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 60,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "price",
    "label": "Price",
    "form": "number",
    "unit": "",
    "hint": "",
    "low": 0,
    "high": 1000000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "note",
    "label": "Note",
    "form": "text",
    "unit": "",
    "hint": "forgiving, runs slow",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": true
 },
 {
  "code": "water",
  "label": "Water",
  "plural": "Waters",
  "facts": [
   {
    "name": "hardness_mg_l",
    "label": "Total hardness",
    "form": "hardness",
    "unit": "mg/L",
    "hint": "",
    "low": 0,
    "high": 5000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "alkalinity_mg_l",
    "label": "Alkalinity",
    "form": "hardness",
    "unit": "mg/L",
    "hint": "",
    "low": 0,
    "high": 5000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "minerals_mg_l",
    "label": "Minerals, all",
    "form": "number",
    "unit": "mg/L",
    "hint": "a conductivity pen; not the TDS of a drink",
    "low": 0,
    "high": 5000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "note",
    "label": "Note",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": true
 },
 {
  "code": "kettle",
  "label": "Kettle",
  "plural": "Kettles",
  "facts": [
   {
    "name": "volume_ml",
    "label": "Holds",
    "form": "number",
    "unit": "mL",
    "hint": "",
    "low": 0,
    "high": 100000,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "set_c",
    "label": "Set to",
    "form": "number",
    "unit": "°C",
    "hint": "",
    "low": 0,
    "high": 120,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "heat_s",
    "label": "Heats from cold in",
    "form": "duration",
    "unit": "s",
    "hint": "",
    "low": 0,
    "high": 3600,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "reheat_s",
    "label": "Reheats between brews in",
    "form": "duration",
    "unit": "s",
    "hint": "",
    "low": 0,
    "high": 3600,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "note",
    "label": "Note",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": false
 },
 {
  "code": "vessel",
  "label": "Cup or server",
  "plural": "Cups, servers",
  "facts": [
   {
    "name": "use",
    "label": "It is a",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "server",
      "Server"
     ],
     [
      "cup",
      "Cup"
     ]
    ],
    "default": "server",
    "needed": false
   },
   {
    "name": "volume_ml",
    "label": "Holds",
    "form": "number",
    "unit": "mL",
    "hint": "",
    "low": 0,
    "high": 100000,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "room_c",
    "label": "Room",
    "form": "number",
    "unit": "°C",
    "hint": "",
    "low": 0,
    "high": 120,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "first_c",
    "label": "First reading",
    "form": "number",
    "unit": "°C",
    "hint": "",
    "low": 0,
    "high": 120,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "second_c",
    "label": "Second reading",
    "form": "number",
    "unit": "°C",
    "hint": "",
    "low": 0,
    "high": 120,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "after_s",
    "label": "Time between them",
    "form": "duration",
    "unit": "s",
    "hint": "",
    "low": 0,
    "high": 100000,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "insulated",
    "label": "Insulated",
    "form": "yes",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [],
    "default": false,
    "needed": false
   },
   {
    "name": "note",
    "label": "Note",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": false
 },
 {
  "code": "sieve_stack",
  "label": "Sieve stack",
  "plural": "Sieve stacks",
  "facts": [
   {
    "name": "apertures_um",
    "label": "Apertures, finest first",
    "form": "apertures",
    "unit": "µm",
    "hint": "300, 500, 800, 1100",
    "low": 10,
    "high": 20000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": true
   },
   {
    "name": "shaking",
    "label": "Shaken by",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "hand",
      "Hand"
     ],
     [
      "machine",
      "A machine"
     ]
    ],
    "default": "hand",
    "needed": false
   },
   {
    "name": "usual_s",
    "label": "For so long",
    "form": "duration",
    "unit": "s",
    "hint": "",
    "low": 0,
    "high": 3600,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "note",
    "label": "Note",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": false
 },
 {
  "code": "instrument",
  "label": "Instrument",
  "plural": "Instruments",
  "facts": [
   {
    "name": "measures",
    "label": "Measures",
    "form": "choice",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [
     [
      "mass",
      "Mass"
     ],
     [
      "temperature",
      "Temperature"
     ],
     [
      "strength",
      "Strength of a drink"
     ],
     [
      "particle_size",
      "Particle size"
     ],
     [
      "water",
      "Water"
     ]
    ],
    "default": "mass",
    "needed": false
   },
   {
    "name": "unit",
    "label": "Unit",
    "form": "text",
    "unit": "",
    "hint": "g, °C, % TDS",
    "low": null,
    "high": null,
    "above": false,
    "longest": 20,
    "options": [],
    "default": "g",
    "needed": false
   },
   {
    "name": "resolution",
    "label": "Resolution",
    "form": "number",
    "unit": "",
    "hint": "",
    "low": 0,
    "high": 1000,
    "above": true,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "accuracy",
    "label": "Accuracy, half-width",
    "form": "number",
    "unit": "",
    "hint": "",
    "low": 0,
    "high": 1000,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "checked_on",
    "label": "Last checked",
    "form": "date",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 0,
    "options": [],
    "default": null,
    "needed": false
   },
   {
    "name": "checked_against",
    "label": "Against",
    "form": "text",
    "unit": "",
    "hint": "distilled water, a 100 g weight",
    "low": null,
    "high": null,
    "above": false,
    "longest": 120,
    "options": [],
    "default": "",
    "needed": false
   },
   {
    "name": "note",
    "label": "Note",
    "form": "text",
    "unit": "",
    "hint": "",
    "low": null,
    "high": null,
    "above": false,
    "longest": 200,
    "options": [],
    "default": "",
    "needed": false
   }
  ],
  "named": false
 }
] as const;
export const PHOTO_KINDS = [
 {
  "code": "bed",
  "label": "Bed"
 },
 {
  "code": "cup",
  "label": "Cup"
 },
 {
  "code": "other",
  "label": "Something else"
 }
] as const;
export const SCALDS_C = 65.0 as const;
export const MOST_FURTHER = 4 as const;
export const MOST_SETUPS = 24 as const;
export const PALATE_AXES = [
 {
  "code": "strength",
  "word": "Strength",
  "more": "stronger",
  "unit": "% of strength",
  "ready": [
   2,
   3,
   4.5,
   6.5,
   9,
   13,
   18,
   25
  ],
  "usual": 8.0
 },
 {
  "code": "temperature",
  "word": "Temperature",
  "more": "warmer",
  "unit": "°C",
  "ready": [
   1,
   1.5,
   2.5,
   4,
   6,
   9,
   13
  ],
  "usual": null
 },
 {
  "code": "acidity",
  "word": "Acidity",
  "more": "more acid",
  "unit": "g/L of the acid",
  "ready": [
   0.05,
   0.08,
   0.12,
   0.2,
   0.3,
   0.5
  ],
  "usual": null
 },
 {
  "code": "sweetness",
  "word": "Sweetness",
  "more": "sweeter",
  "unit": "g/L of sugar",
  "ready": [
   0.5,
   0.8,
   1.3,
   2,
   3.2,
   5
  ],
  "usual": null
 }
] as const;
export const DRILL_KINDS = [
 {
  "code": "stronger",
  "word": "Name the stronger",
  "question": "Which is stronger?",
  "fewest": 2,
  "most": 2,
  "declares": "the weaker first, then the stronger",
  "counted": "right"
 },
 {
  "code": "odd",
  "word": "Find the odd one",
  "question": "Which is odd?",
  "fewest": 2,
  "most": 2,
  "declares": "two that differ",
  "counted": "right"
 },
 {
  "code": "order",
  "word": "Put cups in order",
  "question": "From least to most: touch them in order.",
  "fewest": 3,
  "most": 6,
  "declares": "from least to most",
  "counted": "pairs in order"
 },
 {
  "code": "match",
  "word": "Match words to cups",
  "question": "Which word is which cup?",
  "fewest": 3,
  "most": 8,
  "declares": "a word for each cup",
  "counted": "words on their cup"
 }
] as const;
