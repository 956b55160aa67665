/** The rooms of the rail, and the keys that lead there. */
export const ROOMS = [
  { to: '/', label: 'Bench', keys: 'g b', mark: 'bench' },
  { to: '/trials', label: 'Trials', keys: 'g t', mark: 'trials' },
  { to: '/recipes', label: 'Recipes', keys: 'g r', mark: 'recipes' },
  { to: '/kit', label: 'Kit', keys: 'g k', mark: 'kit' },
  { to: '/grind', label: 'Grind', keys: 'g g', mark: 'grind' },
  { to: '/palate', label: 'Palate', keys: 'g a', mark: 'palate' },
  { to: '/charts', label: 'Charts', keys: 'g c', mark: 'charts' },
] as const;

/** Pages that have no place on the rail. */
export const PAGES = [
  { to: '/brews', label: 'All brews', keys: 'g e' },
  { to: '/people', label: 'People and phones', keys: 'g p' },
  { to: '/words', label: 'Glossary', keys: 'g w' },
  { to: '/kit/instruments', label: 'Accuracy, place, units', keys: 'g i' },
  { to: '/brews/bring-in', label: 'Import a spreadsheet of brews', keys: '' },
  { to: '/brews/bring-in?of=scores', label: 'Import a spreadsheet of scores', keys: '' },
  { to: '/in-and-out', label: 'Import and export', keys: 'g o' },
  { to: '/recipes/new', label: 'Write a recipe', keys: '' },
  { to: '/recipes/compare', label: 'Compare recipes', keys: '' },
  { to: '/kit/translator', label: 'Translate a grind setting', keys: '' },
  { to: '/kit/blend', label: 'Blend waters', keys: '' },
  { to: '/grind/sample', label: 'Weigh a sieve sample', keys: '' },
] as const;

/** The stations of a trial, each reached by its number. */
export const STATIONS = ['ask', 'set-up', 'brew', 'measure', 'taste', 'verdict'] as const;

/** What a phone finds under "More". */
export const MORE = [
  { to: '/grind', label: 'Grind' },
  { to: '/palate', label: 'Palate' },
  { to: '/brew', label: 'Brew a cup' },
  ...PAGES.slice(0, 4),
] as const;
