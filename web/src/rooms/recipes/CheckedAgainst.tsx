import { Chip, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { kitQuery } from '../kit/queries';
import type { Window } from './queries';
import classes from './Recipes.module.css';

export type Against = { brewer: string; windows: Window[] };

const WINDOWS: [Window, string][] = [
  ['classic', 'Classic'],
  ['european', 'European'],
  ['nordic', 'Nordic'],
];

/** Which brewer of the kit, and whose windows, the recipe is compared with. */
export function CheckedAgainst({ against, onChange }: { against: Against; onChange: (against: Against) => void }) {
  const { data: kit } = useQuery(kitQuery);
  const brewers = kit?.items.filter((i) => i.kind === 'brewer' && !i.retired).map((i) => i.name) ?? [];
  return (
    <div className={classes.against}>
      <Select
        size="xs"
        label="Check it in"
        placeholder="no brewer in particular"
        clearable
        clearButtonProps={{ 'aria-label': 'No brewer in particular' }}
        data={brewers}
        value={against.brewer || null}
        onChange={(value) => onChange({ ...against, brewer: value ?? '' })}
      />
      <div>
        <p className="small">and against the window</p>
        <Chip.Group
          multiple
          value={against.windows}
          onChange={(windows) => onChange({ ...against, windows: windows as Window[] })}
        >
          <div className={classes.chips}>
            {WINDOWS.map(([code, label]) => (
              <Chip key={code} value={code} size="xs">
                {label}
              </Chip>
            ))}
          </div>
        </Chip.Group>
      </div>
    </div>
  );
}
