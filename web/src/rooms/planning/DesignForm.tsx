import { Button, Modal, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { FACTOR_ORDER, FACTORS } from '../../api/words';
import { shownAtField, useForm } from '../../ui/fields';
import { fixed, plural } from '../../ui/numbers';
import { Tags } from '../../ui/Tags';
import { useSend } from '../../ui/useSend';
import { kitQuery } from '../kit/queries';
import type { Factor, SetUp, Trial, Variables } from '../trials/queries';
import classes from './Plan.module.css';
import { type DesignBody, layOut, type Plan } from './queries';

type Levels = { factor: Factor; levels: string[] };
type Kind = DesignBody['kind'];
type KindOf = Plan['design_kinds'][number];

type DesignFormProps = { trialId: string; plan: Plan; trial: Trial; setUp: SetUp; onClose: () => void };

/** Levels in, setups out: each a copy of the base with its own levels. */
export function DesignForm({ trialId, plan, trial, setUp, onClose }: DesignFormProps) {
  const asked = [trial.factor, ...trial.further_factors];
  const [kind, setKind] = useState<Kind>(plan.design?.kind ?? (asked.length > 1 ? 'factorial' : 'pair'));
  const [factors, setFactors] = useState<Levels[]>(
    () => plan.design?.factors ?? asked.map((f) => ({ factor: f, levels: present(f, setUp) })),
  );
  const [base, setBase] = useState(setUp.setups[0]!.letter);
  const [ratioMoves, setRatioMoves] = useState<'water' | 'dose'>(plan.design?.ratio_moves ?? 'water');
  const form = useForm<Record<string, string>>({});
  const takes = plan.design_kinds.find((k) => k.code === kind)!;
  const shown = fit(factors, takes);
  const send = useSend(() => layOut(trialId, plan.rev, { kind, factors: shown, base, ratio_moves: ratioMoves }), {
    onDone: onClose,
    onTrouble: shownAtField(form.setRefused),
  });
  const set = (i: number, change: Partial<Levels>) => {
    form.setRefused(null);
    setFactors(shown.map((f, j) => (j === i ? { ...f, ...change } : f)));
  };
  return (
    <Modal opened onClose={onClose} title="Lay out a design" size="lg">
      <form
        className={classes.form}
        onSubmit={(e) => {
          e.preventDefault();
          send.mutate();
        }}
      >
        <Select
          label="Kind"
          allowDeselect={false}
          description={takes.about}
          data={plan.design_kinds.map((k) => ({ value: k.code, label: k.label }))}
          value={kind}
          onChange={(v) => setKind(v as Kind)}
        />
        {shown.map((f, i) => (
          <FactorRow
            key={f.factor}
            row={f}
            taken={shown.map((x) => x.factor)}
            error={form.refused?.at(`factors.${i}.levels`)}
            kind={kind}
            onChange={(change) => set(i, change)}
          >
            {shown.length > takes.fewest_factors && (
              <Button
                size="compact-sm"
                variant="subtle"
                color="red"
                onClick={() => setFactors(shown.filter((_, j) => j !== i))}
              >
                Drop
              </Button>
            )}
          </FactorRow>
        ))}
        {shown.length < takes.most_factors && (
          <Button
            variant="default"
            size="compact-sm"
            style={{ justifySelf: 'start' }}
            onClick={() => setFactors([...shown, { factor: free(shown), levels: [] }])}
          >
            Add a factor
          </Button>
        )}
        <div className={classes.formRow}>
          <Select
            label="Everything else as in"
            allowDeselect={false}
            data={setUp.setups.map((s) => ({ value: s.letter, label: `${s.letter}: ${s.name}` }))}
            value={base}
            onChange={(v) => setBase(v!)}
          />
          {shown.some((f) => f.factor === 'ratio') && (
            <Select
              label="With the ratio moves"
              allowDeselect={false}
              data={[
                { value: 'water', label: 'the water' },
                { value: 'dose', label: 'the dose' },
              ]}
              value={ratioMoves}
              onChange={(v) => setRatioMoves(v as 'water' | 'dose')}
            />
          )}
        </div>
        {form.refused && !shown.some((_, i) => form.refused!.at(`factors.${i}.levels`)) && (
          <p role="alert" className={classes.refused}>
            {form.refused.message}
          </p>
        )}
        <Button
          type="submit"
          loading={send.isPending}
          disabled={shown.some((f) => f.levels.length < takes.fewest_levels || f.levels.length > takes.most_levels)}
        >
          {kind === 'factorial' || kind === 'pair' || kind === 'ladder'
            ? `Lay out ${plural(product(shown), 'setup')}`
            : 'Lay out the setups'}
        </Button>
        <p className="quiet small">Setups without brews are made anew; those with brews stay.</p>
      </form>
    </Modal>
  );
}

const product = (factors: Levels[]) => factors.reduce((n, f) => n * Math.max(1, f.levels.length), 1);

/** As many factors as the kind takes, at least and at most. */
function fit(factors: Levels[], kind: KindOf): Levels[] {
  const out = factors.slice(0, kind.most_factors);
  while (out.length < kind.fewest_factors) out.push({ factor: free(out), levels: [] });
  return out;
}

const ORDER: Factor[] = FACTOR_ORDER;
const free = (used: Levels[]): Factor => ORDER.find((f) => !used.some((u) => u.factor === f)) ?? 'other';

type FactorRowProps = {
  row: Levels;
  taken: Factor[];
  kind: Kind;
  error: string | undefined;
  onChange: (change: Partial<Levels>) => void;
  children: React.ReactNode;
};

function FactorRow({ row, taken, kind, error, onChange, children }: FactorRowProps) {
  const { data: kit } = useQuery(kitQuery);
  const names =
    row.factor === 'grinder'
      ? (kit?.grinders ?? [])
      : (kit?.items ?? []).filter((i) => i.kind === row.factor && !i.retired).map((i) => i.name);
  const hint =
    kind === 'surface'
      ? 'lowest and highest'
      : row.factor === 'ratio'
        ? '15, 16, 17'
        : row.factor === 'temperature'
          ? '90, 93, 96'
          : 'type, then Enter';
  return (
    <div className={classes.factorRow}>
      <Select
        label="Factor"
        allowDeselect={false}
        data={ORDER.filter((f) => f === row.factor || !taken.includes(f)).map((f) => ({ value: f, label: FACTORS[f] }))}
        value={row.factor}
        onChange={(v) => onChange({ factor: v as Factor, levels: [] })}
      />
      <Tags
        label={`Levels of ${FACTORS[row.factor].toLowerCase()}`}
        placeholder={row.levels.length ? '' : hint}
        data={names}
        splitChars={names.length ? [';'] : [',', ';']}
        acceptValueOnBlur
        value={row.levels}
        onChange={(levels) => onChange({ levels })}
        error={error}
      />
      {children}
    </div>
  );
}

const FIELD_OF: Partial<Record<Factor, keyof Variables>> = {
  grind_setting: 'grind_setting',
  grinder: 'grinder',
  filter: 'filter',
  brewer: 'brewer',
  temperature: 'temperature_c',
  coffee: 'coffee',
  water: 'water',
  pours: 'pours',
  other: 'other',
};

/** The levels the setups already have. */
function present(factor: Factor, setUp: SetUp): string[] {
  const field = FIELD_OF[factor];
  const values = setUp.setups.map((s) =>
    factor === 'ratio' ? fixed(s.brew_ratio, 1) : field ? s.variables[field] : null,
  );
  return [...new Set(values.filter((v) => v !== null && v !== '').map(String))];
}
