import { Button, Chip, Group, SegmentedControl, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Refused } from '../../api/client';
import { NumberField, numberOf, shownAtField } from '../../ui/fields';
import { plural } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import type { RunMeasured, SetupMeasured } from '../measuring/queries';
import { addPerson, peopleQuery } from '../people/queries';
import { type AttributeCode, type Flight, makeFlight } from './queries';
import classes from './Taste.module.css';

const ATTRIBUTES: AttributeCode[] = ['aroma', 'acidity', 'sweetness', 'bitterness', 'body', 'clarity', 'finish'];

type NewFlightProps = {
  trialId: string;
  runs: RunMeasured[];
  setups: SetupMeasured[];
  onMade: (flight: Flight) => void;
};

/** Which brews, which people, how blind, how much to ask. */
export function NewFlight({ trialId, runs, setups, onMade }: NewFlightProps) {
  const { data: people = [] } = useQuery(peopleQuery);
  const [brews, setBrews] = useState<string[]>(() => newestOfEach(runs));
  const [tasters, setTasters] = useState<string[]>([]);
  const [blinding, setBlinding] = useState<'shuffle' | 'open'>('shuffle');
  const [attributes, setAttributes] = useState<string[]>(['acidity', 'sweetness', 'body']);
  const [temperature, setTemperature] = useState('');
  const [newName, setNewName] = useState('');
  const [refused, setRefused] = useState<Refused | null>(null);
  const add = useSend(() => addPerson(newName), {
    onDone: (p) => {
      setTasters((now) => [...now, p.id]);
      setNewName('');
    },
  });
  const make = useSend(
    async () =>
      makeFlight(trialId, {
        run_ids: brews,
        taster_ids: tasters,
        blinding,
        attributes: attributes as AttributeCode[],
        cup_temperature_c: numberOf('cup_temperature_c', temperature),
      }),
    {
      onDone: onMade,
      onTrouble: shownAtField(setRefused),
    },
  );
  const touches = brews.length * (attributes.length + 2);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        setRefused(null);
        make.mutate();
      }}
    >
      <h1>Make a flight</h1>
      <p className="quiet" style={{ marginBottom: 14 }}>
        {plural(brews.length, 'cup')} for {plural(tasters.length, 'taster')}; each is asked for{' '}
        {plural(touches, 'touch').replace('touchs', 'touches')}. Same cups, same fill, same temperature.
      </p>
      <div className={classes.builder}>
        <section className="card" aria-labelledby="which-brews">
          <h2 id="which-brews">Brews in the flight</h2>
          <p className="quiet small">Six to eight cups are the most a palate takes.</p>
          <ul className={classes.brews}>
            {setups.map((s) => {
              const own = runs.filter((r) => r.setup_id === s.setup_id);
              return (
                <li key={s.setup_id}>
                  <Penny stamp={s.letter} size={30} />
                  <span className={classes.brewSetup}>{s.name}</span>
                  <Chip.Group multiple value={brews} onChange={setBrews}>
                    <Group gap={6}>
                      {own.map((r) => (
                        <Chip key={r.id} value={r.id} size="sm">
                          {r.label}
                        </Chip>
                      ))}
                      {own.length === 0 && <span className="quiet small">not brewed</span>}
                    </Group>
                  </Chip.Group>
                </li>
              );
            })}
          </ul>
          <FieldTrouble refused={refused} field="run_ids" />
        </section>
        <section className="card" aria-labelledby="who-tastes">
          <h2 id="who-tastes">Who tastes</h2>
          <p className="quiet small">Each gets their own order and their own link. You may be one of them.</p>
          <Chip.Group multiple value={tasters} onChange={setTasters}>
            <Group gap={6} my={10}>
              {people.map((p) => (
                <Chip key={p.id} value={p.id} size="sm">
                  {p.name}
                </Chip>
              ))}
            </Group>
          </Chip.Group>
          <div className={classes.addTaster}>
            <TextInput
              aria-label="Name of somebody new"
              placeholder="Somebody new"
              value={newName}
              maxLength={80}
              onChange={(e) => setNewName(e.currentTarget.value)}
              onKeyDown={(e) => {
                if (e.key !== 'Enter') return;
                e.preventDefault();
                if (newName.trim()) add.mutate();
              }}
            />
            <Button variant="default" disabled={!newName.trim()} loading={add.isPending} onClick={() => add.mutate()}>
              Add
            </Button>
          </div>
          <FieldTrouble refused={refused} field="taster_ids" />
        </section>
        <section className="card" aria-labelledby="how-blind">
          <h2 id="how-blind">How blind</h2>
          <SegmentedControl
            my={10}
            aria-label="How blind"
            value={blinding}
            onChange={(value) => setBlinding(value as 'shuffle' | 'open')}
            data={[
              { value: 'shuffle', label: 'Blind, by shuffling' },
              { value: 'open', label: 'Labels in sight' },
            ]}
          />
          <p className="small">
            {blinding === 'shuffle'
              ? 'Brews stand in like servers, marked underneath. Somebody shuffles them out of sight and code cards go in front. The marks are entered after all scores are locked, so nothing here can give a cup away. It works alone, too.'
              : 'Everybody sees which is which. People often guess wrong once the labels are gone, so these scores are kept apart from blind ones.'}
          </p>
        </section>
        <section className="card" aria-labelledby="what-asked">
          <h2 id="what-asked">What is asked, beside liking</h2>
          <Chip.Group multiple value={attributes} onChange={setAttributes}>
            <Group gap={6} my={10}>
              {ATTRIBUTES.map((a) => (
                <Chip key={a} value={a} size="sm">
                  {a}
                </Chip>
              ))}
            </Group>
          </Chip.Group>
          <NumberField
            label="Cup temperature, one for the flight"
            description="Taste below 65 °C. May be left empty."
            unit="°C"
            value={temperature}
            onText={setTemperature}
            error={refused?.at('cup_temperature_c')}
          />
        </section>
      </div>
      <div className={classes.make}>
        {' '}
        <Button type="submit" size="md" loading={make.isPending} disabled={brews.length < 2 || tasters.length === 0}>
          Make the flight
        </Button>
        {(brews.length < 2 || tasters.length === 0) && (
          <span className="quiet">{brews.length < 2 ? 'Choose at least two brews.' : 'Choose who tastes.'}</span>
        )}
      </div>
    </form>
  );
}

function FieldTrouble({ refused, field }: { refused: Refused | null; field: string }) {
  const said = refused?.at(field);
  return said ? (
    <p role="alert" className={classes.trouble}>
      {said}
    </p>
  ) : null;
}

/** The newest brew of each setup that is in no flight yet, else its newest. */
function newestOfEach(runs: RunMeasured[]): string[] {
  const bySetup = new Map<string, RunMeasured>();
  for (const run of runs) {
    const held = bySetup.get(run.setup_id);
    if (!held || held.in_flight || !run.in_flight) bySetup.set(run.setup_id, run);
  }
  return [...bySetup.values()].map((r) => r.id);
}
