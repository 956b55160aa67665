import { Button, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { numberOf, shownAtField, useForm } from '../../ui/fields';
import { Loaded } from '../../ui/Loading';
import { fixed } from '../../ui/numbers';
import { useLook } from '../../ui/useLook';
import { HardnessField } from './HardnessField';
import classes from './Kit.module.css';
import { blendWaters, type KitItem, kitQuery } from './queries';

const WORDS: Record<string, string> = {
  hardness_mg_l: 'Total hardness',
  alkalinity_mg_l: 'Alkalinity',
  minerals_mg_l: 'Minerals',
};

const FIELDS = ['first_id', 'second_id', 'hardness_mg_l', 'alkalinity_mg_l'];

/** Two waters mixed to a target. */
export function BlendPage() {
  const kit = useQuery(kitQuery);
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Blend two waters</h1>
        <Button variant="default" component={Link} to="/kit/water">
          Back to the waters
        </Button>
      </header>
      <Loaded query={kit}>
        {(data) => {
          const waters = data.items.filter((i) => i.kind === 'water' && !i.retired);
          return waters.length < 2 ? (
            <p className="card">Two waters with their hardness or alkalinity are needed in the kit.</p>
          ) : (
            <Blend waters={waters} advice={data.water_advice} />
          );
        }}
      </Loaded>
    </main>
  );
}

function Blend({ waters, advice }: { waters: KitItem[]; advice: string }) {
  const [firstId, setFirst] = useState(waters[0]!.id);
  const [secondId, setSecond] = useState(waters[1]!.id);
  const form = useForm({ hardness_mg_l: '', alkalinity_mg_l: '' });
  const nameOf = (id: string) => waters.find((w) => w.id === id)?.name ?? '';
  const blend = useLook(async () => {
    const asked = {
      first_id: firstId,
      second_id: secondId,
      hardness_mg_l: numberOf('hardness_mg_l', form.values.hardness_mg_l),
      alkalinity_mg_l: numberOf('alkalinity_mg_l', form.values.alkalinity_mg_l),
    };
    return { ...(await blendWaters(asked)), asked };
  }, shownAtField(form.setRefused));
  const names = waters.map((w) => ({ value: w.id, label: w.name }));
  const summaryOf = (id: string) => waters.find((w) => w.id === id)?.summary ?? '';
  const b = blend.error ? null : blend.read;
  return (
    <div className={classes.two}>
      <form
        className="card"
        onSubmit={(e) => {
          e.preventDefault();
          blend.ask();
        }}
      >
        <div className={classes.blendForm}>
          <Select
            label="One water"
            description={summaryOf(firstId)}
            data={names}
            allowDeselect={false}
            value={firstId}
            onChange={(v) => setFirst(v!)}
            error={form.refused?.at('first_id')}
          />
          <Select
            label="The other"
            description={summaryOf(secondId)}
            data={names}
            allowDeselect={false}
            value={secondId}
            onChange={(v) => setSecond(v!)}
            error={form.refused?.at('second_id')}
          />
          {(['hardness_mg_l', 'alkalinity_mg_l'] as const).map((name) => (
            <HardnessField
              key={name}
              label={`${WORDS[name]} wanted`}
              value={form.values[name]}
              onText={(text) => form.set(name, text)}
              error={form.refused?.at(name)}
            />
          ))}
        </div>
        {form.refused && !FIELDS.some((f) => form.refused!.at(f)) && (
          <p className={classes.fault} role="alert" style={{ marginTop: 12 }}>
            {form.refused.message}
          </p>
        )}
        <Button mt="md" type="submit" loading={blend.isPending}>
          Solve the blend
        </Button>
        {b && (
          <div aria-live="polite">
            <div className={classes.share}>
              <span style={{ flexBasis: `${100 * b.first_share}%` }}>{fixed(100 * b.first_share, 0)} %</span>
              <span style={{ flexBasis: `${100 * (1 - b.first_share)}%` }}>
                {fixed(100 * (1 - b.first_share), 0)} %
              </span>
            </div>
            <p>
              For a litre: <b className="num">{fixed(1000 * b.first_share, 0)} g</b> {nameOf(b.asked.first_id)},{' '}
              <b className="num">{fixed(1000 * (1 - b.first_share), 0)} g</b> {nameOf(b.asked.second_id)}.
            </p>
            <dl className={classes.facts}>
              {Object.entries(b.got).map(([quality, value]) => (
                <div key={quality}>
                  <dt>{WORDS[quality]}</dt>
                  <dd className="num">
                    {fixed(value, 0)} mg/L
                    {b.off[quality] !== undefined &&
                      Math.abs(b.off[quality]) >= 0.5 &&
                      ` (${b.off[quality] > 0 ? '+' : ''}${fixed(b.off[quality], 0)})`}
                  </dd>
                </div>
              ))}
            </dl>
            {!b.reached && (
              <p className={classes.caution}>These two waters do not reach the target; this is the nearest.</p>
            )}
            {b.notes.map((note) => (
              <p key={note} className="quiet small">
                {note}
              </p>
            ))}
          </div>
        )}
      </form>
      <div className="card">
        <h2>Common advice</h2>
        <p className="quiet">{advice}</p>
      </div>
    </div>
  );
}
