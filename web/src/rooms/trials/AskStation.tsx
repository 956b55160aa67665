import { Button } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useParams } from 'react-router';
import { Confirm } from '../../ui/Confirm';
import { Loaded } from '../../ui/Loading';
import { tellDone, tellTrouble, useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { AskForm } from './AskForm';
import { duplicateTrial, editTrial, removeTrial, trialQuery } from './queries';
import { TrialNotes } from './TrialNotes';

/** Ask: the question and its settings, which can change at any time. */
export function AskStation() {
  const { id = '' } = useParams();
  const navigate = useNavigate();
  const trial = useQuery(trialQuery(id));
  const tellDeleted = useTellDeleted();
  const client = useQueryClient();
  // Leave first, and never fetch this trial anew: what is still on screen would only be told that it is gone.
  const duplicate = useSend(() => duplicateTrial(id), {
    onDone: (made) => {
      tellDone(`Trial ${made.number} asks the same of the same setups; nothing is brewed yet.`);
      navigate(`/trials/${made.id}/set-up`);
    },
  });
  const remove = async () => {
    try {
      await navigate('/');
      const done = await removeTrial(id);
      tellDeleted('The trial', done.change_id);
      await client.invalidateQueries({ predicate: (query) => query.queryKey[1] !== id });
    } catch (error) {
      tellTrouble(error);
    }
  };
  return (
    <Loaded query={trial}>
      {(t) => (
        <>
          <h1>What is asked</h1>
          <p className="quiet" style={{ marginBottom: 16 }}>
            Changing a setting re-judges the existing brews and scores.
          </p>
          <AskForm
            key={t.rev}
            trial={t}
            verb="Save"
            send={(body) => editTrial(id, t.rev, body)}
            onDone={() => tellDone('Saved.')}
          >
            <Button size="md" variant="default" loading={duplicate.isPending} onClick={() => duplicate.mutate()}>
              Duplicate the trial
            </Button>
            <Confirm
              question="Delete this trial?"
              detail="Its setups, brews, readings and scores go with it. It can be undone from the message that follows."
              verb="Delete the trial"
              onYes={remove}
            >
              {(askFirst) => (
                <Button size="md" variant="subtle" color="red" onClick={askFirst}>
                  Delete the trial
                </Button>
              )}
            </Confirm>
          </AskForm>
          <TrialNotes key={`notes${t.rev}`} trial={t} />
        </>
      )}
    </Loaded>
  );
}
