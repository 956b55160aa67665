import { Button, Modal, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams } from 'react-router';
import { MATCHING_RULES } from '../../api/vocabulary';
import { labelOf } from '../../api/words';
import { Confirm } from '../../ui/Confirm';
import { shownAtField, useForm } from '../../ui/fields';
import { Loaded } from '../../ui/Loading';
import { NextLink } from '../../ui/NextLink';
import { plural } from '../../ui/numbers';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { SetUpTabs } from '../planning/SetUpTabs';
import { type MarginCaveat, progressQuery } from '../progress/queries';
import { ControlBars } from './ControlBars';
import { CopySetup } from './CopySetup';
import { EditVariable } from './EditVariable';
import { FirstSetup } from './FirstSetup';
import { GiveRecipe } from './GiveRecipe';
import {
  declare,
  editSetup,
  hold,
  removeSetup,
  type SetUp,
  type Setup,
  setUpQuery,
  takeBack,
  takeKitOfNow,
  trialQuery,
  type VariablesPatch,
} from './queries';
import classes from './SetUp.module.css';

const MOST_SETUPS = 24;
const STRENGTH_WORDS = { as_brewed: 'tasted as brewed', matched: 'matched to the weakest cup before tasting' } as const;

/** Set up: what is held, what is tested, and what cracks. */
export function SetUpStation() {
  const { id = '' } = useParams();
  const trial = useQuery(trialQuery(id));
  const setUp = useQuery(setUpQuery(id));
  const rail = useQuery(progressQuery(id));
  const [declaring, setDeclaring] = useState<{ field: string; label: string; rule: Rule } | null>(null);
  const [copying, setCopying] = useState(false);
  const [editing, setEditing] = useState<{ field: string; label: string } | null>(null);
  const [giving, setGiving] = useState(false);
  const [named, setNamed] = useState<Setup | null>(null);
  const holdIt = useSend((x: { field: string; letter: string }) => hold(id, x.field, x.letter));
  const takeItBack = useSend((field: string) => takeBack(id, field));
  if (!trial.data) return null;
  const otherLabel = trial.data.factor_other || 'something else';
  return (
    <Loaded query={setUp}>
      {(data) =>
        data.setups.length === 0 ? (
          <FirstSetup trial={trial.data} otherLabel={otherLabel} />
        ) : (
          <>
            <SetUpTabs trialId={id} />
            <div className={classes.heading}>
              <h1>{headline(data, rail.data?.caveats ?? [])}</h1>
              <p className="quiet">{explain(data)}</p>
            </div>
            <ControlBars
              setUp={data}
              strength={STRENGTH_WORDS[trial.data.strength_policy]}
              onEdit={(field, label) => setEditing({ field, label })}
              onSetup={setNamed}
              onHold={(field, letter) => holdIt.mutate({ field, letter })}
              onDeclare={(field, label, rule) => setDeclaring({ field, label, rule })}
              onTakeBack={(field) => takeItBack.mutate(field)}
            />
            <MadeOn trialId={id} setUp={data} />
            <div className={classes.actions}>
              {data.setups.length >= 2 && (
                <NextLink to={`/trials/${id}/brew`} takesFocus={!data.setups.some((s) => s.runs)}>
                  Start brewing
                </NextLink>
              )}
              <Button
                size="md"
                variant={data.setups.length < 2 ? 'filled' : 'default'}
                disabled={data.setups.length >= MOST_SETUPS}
                onClick={() => setCopying(true)}
              >
                Copy a setup, change one thing
              </Button>
              <Button size="md" variant="default" onClick={() => setGiving(true)}>
                {data.setups.some((s) => s.recipe) ? 'Change the recipe' : 'Apply a recipe'}
              </Button>
              {data.setups.length >= MOST_SETUPS && (
                <span className="quiet small">Twenty-four setups are the most one trial compares.</span>
              )}
            </div>
            {declaring && <DeclareDifference trialId={id} {...declaring} onClose={() => setDeclaring(null)} />}
            {giving && <GiveRecipe setups={data.setups} onClose={() => setGiving(false)} />}
            {copying && (
              <CopySetup
                trialId={id}
                setups={data.setups}
                testedField={data.tested_field}
                otherLabel={otherLabel}
                onClose={() => setCopying(false)}
              />
            )}
            {editing && (
              <EditVariable
                field={editing.field as keyof VariablesPatch}
                label={editing.label}
                setups={data.setups}
                onClose={() => setEditing(null)}
              />
            )}
            {named && <NameSetup setup={named} onClose={() => setNamed(null)} />}
          </>
        )
      }
    </Loaded>
  );
}

/** Kit that is described otherwise than when the setups were made on it, and one press to take it as it is known today. */
function MadeOn({ trialId, setUp }: { trialId: string; setUp: SetUp }) {
  const take = useSend((kitItemId: string) => takeKitOfNow(trialId, kitItemId));
  return setUp.made_on.map((m) => (
    <div key={m.kit_item_id} className={classes.madeOn}>
      <p>
        {m.text} {m.changes.join('; ')}.{' '}
        {setUp.setups.some((s) => s.runs && m.letters.includes(s.letter)) &&
          'Brews made before keep the record they were brewed on.'}
      </p>
      <Button variant="default" loading={take.isPending} onClick={() => take.mutate(m.kit_item_id)}>
        Take it as it is now
      </Button>
    </div>
  ));
}

/** Fair is said only when the margin has nothing against it. */
function headline(data: SetUp, caveats: MarginCaveat[]): string {
  const cracks = data.bars.filter((b) => b.kind === 'crack');
  if (data.setups.length < 2) return 'One setup so far';
  if (cracks.length === 1) return `One crack: ${cracks[0]!.label.toLowerCase()}`;
  if (cracks.length) return `${plural(cracks.length, 'crack')} to mend`;
  const unfair = caveats.filter((c) => c.unfair);
  return unfair.length ? `Not fair yet. ${unfair[0]!.title}` : 'A fair comparison';
}

function explain(data: SetUp): string {
  if (data.setups.length < 2) return 'Copy it and change one thing to have something to compare.';
  return `${data.tested_fields.length > 1 ? `${data.tested_fields.length} things` : 'One thing'} tested; everything else should run unbroken.`;
}

type Rule = SetUp['matching_rules'][number]['code'];

/** A known difference, with its rule and the reason for it. */
function DeclareDifference(p: { trialId: string; field: string; label: string; rule: Rule; onClose: () => void }) {
  const form = useForm({ reason: '' });
  const save = useSend(() => declare(p.trialId, p.field, p.rule, form.values.reason), {
    onDone: p.onClose,
    onTrouble: shownAtField(form.setRefused),
  });
  return (
    <Modal opened onClose={p.onClose} title={`${p.label} differs: ${labelOf(MATCHING_RULES, p.rule)}`}>
      <form
        className={classes.copy}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <TextInput
          label="Reason it differs"
          placeholder="each dialled in to run out at 2:50"
          description="Optional. It stands with the bar, in the margin and in the report."
          maxLength={200}
          data-autofocus
          value={form.values.reason}
          onChange={(e) => form.set('reason', e.currentTarget.value)}
          error={form.refused?.at('reason')}
        />
        <Button type="submit" loading={save.isPending}>
          Declare the difference
        </Button>
      </form>
    </Modal>
  );
}

function NameSetup({ setup, onClose }: { setup: Setup; onClose: () => void }) {
  const [name, setName] = useState(setup.given_name);
  const tellDeleted = useTellDeleted();
  const save = useSend(() => editSetup(setup.id, setup.rev, { name }), { onDone: onClose });
  const remove = useSend(() => removeSetup(setup.id), {
    onDone: (done) => {
      tellDeleted(`Setup ${setup.letter}`, done.change_id);
      onClose();
    },
  });
  return (
    <Modal opened onClose={onClose} title={`Setup ${setup.letter}`} size="sm">
      <form
        className={classes.copy}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <TextInput
          label="Name"
          placeholder={setup.name}
          description="If empty, it is named after what is tested."
          maxLength={80}
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Button type="submit" loading={save.isPending}>
          Save the name
        </Button>
        <Confirm
          question={`Delete setup ${setup.letter}?`}
          detail="Its brews leave the results with it. It can be undone."
          verb="Delete the setup"
          onYes={() => remove.mutate()}
        >
          {(askFirst) => (
            <Button variant="subtle" color="red" onClick={askFirst}>
              Delete the setup
            </Button>
          )}
        </Confirm>
      </form>
    </Modal>
  );
}
