import { Button, Checkbox, Chip, Group, SegmentedControl, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { Refused } from '../../api/client';
import { ATTRIBUTES, BLINDINGS, PASSES } from '../../api/vocabulary';
import { optionsOf } from '../../api/words';
import { atADesk } from '../../ui/desk';
import { NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { fixed, plural } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Pick } from '../../ui/Pick';
import { Restored } from '../../ui/Restored';
import { Term } from '../../ui/Term';
import { useSend } from '../../ui/useSend';
import { matchingQuery, type RunMeasured, type SetupMeasured } from '../measuring/queries';
import { LetIn } from '../people/LetIn';
import { addPerson, peopleQuery } from '../people/queries';
import { type AskedBlinding, expectedStronger, flightBody, isInRounds, NEW_FLIGHT } from './flightForm';
import { type AttributeCode, type Flight, makeFlight, methodQuery, outlookQuery } from './queries';
import classes from './Taste.module.css';

const ATTRIBUTE_CODES: AttributeCode[] = ATTRIBUTES.map((a) => a.code);
const ASKED = BLINDINGS.filter((b) => b.asked);

const TIRING = 6;

type NewFlightProps = {
  trialId: string;
  runs: RunMeasured[];
  setups: SetupMeasured[];
  onMade: (flight: Flight) => void;
};

/** Which brews, which people, how blind, how it is asked; and what that takes of each taster. */
export function NewFlight({ trialId, runs, setups, onMade }: NewFlightProps) {
  const { data: everybody } = useQuery(peopleQuery);
  const people = everybody ?? [];
  const { data: fits } = useQuery(methodQuery(trialId));
  const { data: matching } = useQuery(matchingQuery(trialId, null));
  const form = useForm(NEW_FLIGHT, `flight.${trialId}`);
  const { refused, setRefused } = form;
  const {
    picked,
    twice,
    tasters,
    blinding,
    hostTastes,
    chosen,
    passes,
    attributes,
    jar,
    extras,
    cups,
    cleanser,
    likingLast,
    rest,
    rounds,
    ownChosen,
    named,
    stronger,
  } = form.values;
  const put = form.setValues;
  const brews = picked ?? fits?.run_ids ?? [];
  const [newName, setNewName] = useState('');
  const method = chosen ?? fits?.proposed ?? 'scores';
  const scored = method === 'scores';
  const ranked = method === 'ranking';
  const inRounds = isInRounds(method);
  const tasted = runs.filter((r) => brews.includes(r.id));
  const shownStronger = expectedStronger(tasted, stronger);
  const canOwn = method === 'triangle';
  const [ownSuggested, setOwnSuggested] = useState(false);
  const ownSets = canOwn && (ownChosen ?? ownSuggested);
  const add = useSend(() => addPerson(newName), {
    onDone: (p) => {
      put({ tasters: [...tasters, p.id] });
      setNewName('');
    },
  });
  const body = (restS: number) => flightBody(form.values, { method, brews, stronger: shownStronger, ownSets, restS });
  const restS = Number(rest);
  const { data: outlook } = useQuery(
    outlookQuery(trialId, body(Number.isInteger(restS) && restS >= 0 && restS <= 300 ? restS : 30)),
  );
  useEffect(() => {
    if (outlook) setOwnSuggested(outlook.own_sets);
  }, [outlook]);
  const make = useSend(async () => makeFlight(trialId, body(numberOf('rest_s', rest) ?? 0)), {
    onDone: (made) => {
      form.forget();
      onMade(made);
    },
    onTrouble: shownAtField(setRefused),
  });
  const ready = brews.length > 1 && tasters.length > 0;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        setRefused(null);
        make.mutate();
      }}
    >
      <h1>Make a flight</h1>
      <Restored form={form} />
      <p className="quiet" style={{ marginBottom: 14 }}>
        {ready && outlook
          ? `${plural(outlook.cups, 'cup')} for ${plural(tasters.length, 'taster')}: ${plural(outlook.touches, 'touch').replace('touchs', 'touches')} and about ${Math.max(1, Math.round(outlook.minutes))} min each. Same vessels, same fill, same temperature.`
          : 'Same vessels, same fill, same temperature.'}
      </p>
      {matching?.step && (
        <p className={classes.firstStep} role="status">
          <b>Match the strengths first.</b> {matching.step}{' '}
          <Link to={`/trials/${trialId}/measure`}>Note it in Measure</Link>
        </p>
      )}
      <div className={classes.builder}>
        <section className={`card ${classes.wide}`} aria-labelledby="which-method">
          <h2 id="which-method">Test method</h2>
          <div className={classes.methods} role="group" aria-labelledby="which-method">
            {fits?.methods.map((m) => (
              <button
                key={m.code}
                type="button"
                className={classes.method}
                aria-pressed={method === m.code}
                onClick={() => put({ chosen: m.code })}
              >
                {m.label}
                {fits.proposed === m.code && <span className={classes.proposed}>suggested</span>}
              </button>
            ))}
          </div>
          <p className="small">{fits?.methods.find((m) => m.code === method)?.about}</p>
          {fits && <p className="quiet small">Suggested: {fits.why}</p>}
          <FieldTrouble refused={refused} field="method" />
        </section>
        <section className="card" aria-labelledby="which-brews">
          <h2 id="which-brews">Brews in the flight</h2>
          {fits?.run_ids.length === 0 && (
            <p className="small" role="status">
              These brews were poured in an earlier flight. Brew each again, or pick those of which some is left.
            </p>
          )}
          {brews.length >= TIRING && <p className="quiet small">Six to eight cups are the most a palate takes.</p>}
          <ul className={classes.brews}>
            {setups.map((s) => {
              const own = runs.filter((r) => r.setup_id === s.setup_id);
              return (
                <li key={s.setup_id}>
                  <Penny stamp={s.letter} size={30} />
                  <span className={classes.brewSetup}>{s.name}</span>
                  <Chip.Group multiple value={brews} onChange={(picked) => put({ picked })}>
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
          {scored && brews.length > 1 && (
            <details className={classes.more} open={twice.length > 0}>
              <summary>Add a hidden duplicate to check the tasters</summary>
              <Chip.Group multiple value={twice} onChange={(twice) => put({ twice })}>
                <Group gap={6}>
                  {tasted.map((r) => (
                    <Chip key={r.id} value={r.id} size="sm">
                      {r.label} twice
                    </Chip>
                  ))}
                </Group>
              </Chip.Group>
              <FieldTrouble refused={refused} field="duplicate_run_ids" />
            </details>
          )}
          {inRounds && (
            <Pick
              mt="sm"
              label={method === 'paired' ? 'Each pair' : 'Rounds for each taster'}
              value={String(rounds)}
              onPick={(value) => put({ rounds: Number(value) })}
              data={[1, 2, 3, 4].map((n) => ({ value: String(n), label: n === 1 ? 'once' : `${n} times` }))}
              error={refused?.at('rounds')}
            />
          )}
          {canOwn && (
            <Checkbox
              mt="sm"
              label="Each taster gets a set of their own"
              description="Four servers, three cups each: the odd one differs over the table."
              checked={ownSets}
              onChange={(e) => put({ ownChosen: e.currentTarget.checked })}
              error={refused?.at('own_sets')}
            />
          )}
          {method === 'two_afc' && (
            <Group grow mt="sm" align="start">
              <Pick
                label="Which has more"
                value={named}
                onPick={(named) => put({ named })}
                data={ATTRIBUTE_CODES}
                error={refused?.at('named_attribute')}
              />
              <Pick
                label="Expected to have more"
                value={shownStronger}
                onPick={(stronger) => put({ stronger })}
                data={tasted.map((r) => ({ value: r.id, label: r.label }))}
                error={refused?.at('stronger_run_id')}
              />
            </Group>
          )}
        </section>
        <section className="card" aria-labelledby="who-tastes">
          <h2 id="who-tastes">Who tastes</h2>
          <p className="quiet small">Each gets their own order and link, you too.</p>
          <Chip.Group multiple value={tasters} onChange={(tasters) => put({ tasters })}>
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
              key={everybody ? 'known' : 'fetching'}
              aria-label="Name of somebody new"
              autoFocus={everybody?.length === 0 && atADesk()}
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
          {tasters.length > 1 && <LetIn otherwise="Or use one tablet or paper." />}
        </section>
        <details
          className={`${classes.wide} ${classes.how}`}
          open={HOW.some((field) => refused?.at(field)) || undefined}
        >
          <summary>
            <b>How it is tasted</b>
            <span className="quiet small">
              {' '}
              {ASKED.find((b) => b.code === blinding)?.label.toLowerCase()}
              {scored && ` · ${passes.join(', ')} · liking${attributes.length ? `, ${attributes.join(', ')}` : ''}`}
            </span>
          </summary>
          <div className={classes.builder}>
            <section className="card" aria-labelledby="how-blind">
              <h2 id="how-blind">
                How <Term of="blind">blind</Term>
              </h2>
              <SegmentedControl
                my={10}
                aria-label="How blind"
                value={blinding}
                onChange={(value) => put({ blinding: value as AskedBlinding })}
                data={optionsOf(ASKED)}
              />
              <p className="small">{ASKED.find((b) => b.code === blinding)?.about}</p>
              {blinding === 'runner' && (
                <Checkbox
                  mt="sm"
                  label="I am tasting too: keep the key from me until the flip"
                  checked={hostTastes}
                  onChange={(e) => put({ hostTastes: e.currentTarget.checked })}
                />
              )}
              {blinding !== 'open' && (
                <Pick
                  mt="sm"
                  label="Cups"
                  description="Colour, haze and sediment give cups away."
                  value={cups}
                  onPick={(cups) => put({ cups })}
                  data={[
                    { value: '', label: 'not said' },
                    { value: 'lidded', label: 'lidded' },
                    { value: 'dark', label: 'dark inside' },
                    { value: 'clear', label: 'light or clear' },
                  ]}
                />
              )}
            </section>
            <section className="card" aria-labelledby="what-asked">
              <h2 id="what-asked">{scored ? 'What is asked, beside liking' : 'Between cups'}</h2>
              {scored && (
                <>
                  <Chips values={ATTRIBUTE_CODES} chosen={attributes} onChoose={(attributes) => put({ attributes })} />
                  <h3>
                    <Term of="pass">Passes</Term>
                  </h3>
                  <p className="quiet small">
                    Cups change as they cool; the winner can change with them. Tasting alone? Use warm.
                  </p>
                  <Chips values={PASSES.map((p) => p.code)} chosen={passes} onChoose={(passes) => put({ passes })} />
                </>
              )}
              <details className={classes.more}>
                <summary>More to ask and to set</summary>
                <div className={classes.moreGrid}>
                  {scored && (
                    <div>
                      <h3>
                        <Term of="jar">Just about right?</Term>
                      </h3>
                      <Chips values={ATTRIBUTE_CODES} chosen={jar} onChoose={(jar) => put({ jar })} />
                    </div>
                  )}
                  {(scored || ranked) && (
                    <Chip.Group multiple value={extras} onChange={(extras) => put({ extras })}>
                      <Group gap={6}>
                        <Chip value="guess" size="sm">
                          guess which is which
                        </Chip>
                        {scored && (
                          <Chip value="sip" size="sm">
                            temperature at first sip
                          </Chip>
                        )}
                      </Group>
                    </Chip.Group>
                  )}
                  <NumberField
                    label="Rest between cups"
                    description="30 to 60 s; the phones count it."
                    unit="s"
                    value={rest}
                    onText={(rest) => put({ rest })}
                    error={refused?.at('rest_s')}
                  />
                  {scored && (
                    <Checkbox
                      label="Ask liking after the attributes"
                      description="First, they do not colour it."
                      checked={likingLast}
                      onChange={(e) => put({ likingLast: e.currentTarget.checked })}
                    />
                  )}
                  <Checkbox
                    label="Water or plain crackers stand ready"
                    checked={cleanser}
                    onChange={(e) => put({ cleanser: e.currentTarget.checked })}
                  />
                </div>
              </details>
            </section>
          </div>
        </details>
        {ready && outlook && (outlook.notes.length > 0 || outlook.caffeine_mg) && (
          <section className={`card ${classes.wide}`} aria-labelledby="mind">
            <h2 id="mind">To mind</h2>
            <ul className={`${classes.costs} ${classes.load}`}>
              {outlook.notes.map((n) => (
                <li key={n}>{n}</li>
              ))}
              {outlook.caffeine_mg && (
                <li>
                  About{' '}
                  <span className="num">
                    {fixed(outlook.caffeine_mg[0], 0)}–{fixed(outlook.caffeine_mg[1], 0)} mg
                  </span>{' '}
                  of caffeine each if all is swallowed; spitting lowers it.
                </li>
              )}
            </ul>
          </section>
        )}
      </div>
      <div className={classes.make}>
        <Button type="submit" size="md" loading={make.isPending} disabled={!ready}>
          {blinding === 'runner' ? 'Seal the flight' : 'Make the flight'}
        </Button>
        {!ready && (
          <span className="quiet">{brews.length < 2 ? 'Choose at least two brews.' : 'Choose who tastes.'}</span>
        )}
      </div>
    </form>
  );
}

/** Fields that stand in the fold: a refusal of one opens it. */
const HOW = ['blinding', 'host_tastes', 'cups', 'attributes', 'passes', 'jar', 'rest_s', 'guess', 'sip_temperature'];

type ChipsProps = { values: readonly string[]; chosen: string[]; onChoose: (chosen: string[]) => void };

function Chips({ values, chosen, onChoose }: ChipsProps) {
  return (
    <Chip.Group multiple value={chosen} onChange={onChoose}>
      <Group gap={6} my={8}>
        {values.map((v) => (
          <Chip key={v} value={v} size="sm">
            {v}
          </Chip>
        ))}
      </Group>
    </Chip.Group>
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
