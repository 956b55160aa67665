import { ActionIcon, Autocomplete, Button, Select, TextInput } from '@mantine/core';
import { DRILL_KINDS } from '../../api/vocabulary';
import { FormModal } from '../../ui/FormModal';
import { shownAtField, useForm } from '../../ui/fields';
import { useSend } from '../../ui/useSend';
import { placesOf } from './drilling';
import classes from './Palate.module.css';
import { type Drill, makeDrill } from './queries';

type Code = (typeof DRILL_KINDS)[number]['code'];
const EMPTY = { name: '', made: '' };
const USUAL: Record<Code, number> = { stronger: 2, odd: 2, order: 5, match: 4 };
const PLACEHOLDERS: Record<Code, string[]> = {
  stronger: ['brew with a tenth of water', 'brew'],
  odd: ['lot 7', 'lot 8'],
  order: ['water', '0.5 g/L sugar', '1 g/L sugar', '2 g/L sugar', '4 g/L sugar', '8 g/L sugar'],
  match: ['citrus', 'cocoa', 'nutty', 'floral'],
};

type Props = { personId: string; shelf: string[]; onClose: () => void; onMade: (drill: Drill) => void };

/** What is in each cup of an exercise, and how it is made up. */
export function NewDrill({ personId, shelf, onClose, onMade }: Props) {
  const form = useForm(
    { kind: 'stronger' as Code, cups: Array.from({ length: USUAL.stronger }, () => EMPTY) },
    'drill',
  );
  const { refused, setRefused, setValues } = form;
  const { kind, cups } = form.values;
  const setCups = (next: (was: (typeof EMPTY)[]) => (typeof EMPTY)[]) => setValues((now) => ({ cups: next(now.cups) }));
  const chosen = DRILL_KINDS.find((k) => k.code === kind)!;
  const make = useSend(() => makeDrill({ person_id: personId, kind, cups }), {
    onDone: (made) => {
      form.forget();
      onMade(made);
    },
    onTrouble: shownAtField(setRefused),
  });
  const turnTo = (to: Code) => {
    setValues({ kind: to });
    setRefused(null);
    setCups((was) => Array.from({ length: USUAL[to] }, (_, i) => was[i] ?? EMPTY));
  };
  const set = (at: number, part: Partial<typeof EMPTY>) => {
    setRefused(null);
    setCups((was) => was.map((cup, i) => (i === at ? { ...cup, ...part } : cup)));
  };
  return (
    <FormModal title="New drill" className={classes.form} onClose={onClose} onSend={() => make.mutate()}>
      <Select
        label="Exercise"
        allowDeselect={false}
        value={kind}
        onChange={(to) => turnTo(to as Code)}
        data={DRILL_KINDS.map((k) => ({ value: k.code, label: k.word }))}
      />
      <p className="quiet small">Name the cups: {chosen.declares}.</p>
      {cups.map((cup, i) => (
        <div key={placesOf(cups.length)[i]} className={classes.cupRow}>
          <Autocomplete
            label={`Cup ${i + 1}`}
            placeholder={PLACEHOLDERS[kind][i] ?? ''}
            value={cup.name}
            onChange={(name) => set(i, { name })}
            data={kind === 'match' ? shelf : []}
            limit={12}
            error={refused?.at(`cups.${i}.name`)}
          />
          <TextInput
            label={`How cup ${i + 1} is made up`}
            placeholder="optional"
            value={cup.made}
            onChange={(e) => set(i, { made: e.currentTarget.value })}
            error={refused?.at(`cups.${i}.made`)}
          />
          {cups.length > chosen.fewest && (
            <ActionIcon
              variant="subtle"
              aria-label={`Take cup ${i + 1} away`}
              onClick={() => setCups((was) => was.filter((_, at) => at !== i))}
            >
              ×
            </ActionIcon>
          )}
        </div>
      ))}
      {refused?.at('cups') && <p role="alert">{refused.at('cups')}</p>}
      {cups.length < chosen.most && (
        <Button variant="default" onClick={() => setCups((was) => [...was, EMPTY])}>
          One more cup
        </Button>
      )}
      <Button type="submit" size="md" loading={make.isPending}>
        Start the drill
      </Button>
    </FormModal>
  );
}
