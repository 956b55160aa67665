import { Button, Textarea } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { shownAtField, useForm } from '../../ui/fields';
import { Restored } from '../../ui/Restored';
import { Tags } from '../../ui/Tags';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { tagsQuery } from '../progress/queries';
import { noteTrial, type Trial } from './queries';
import classes from './TrialsPage.module.css';

const MOST_TAGS = 12;

/** What the host writes down about a trial, the words to find it by, and putting it away. */
export function TrialNotes({ trial }: { trial: Trial }) {
  const form = useForm({ note: trial.note }, `note.${trial.id}.${trial.rev}`);
  const [tags, setTags] = useState(trial.tags);
  const { data: known = [] } = useQuery(tagsQuery);
  const save = useSend(() => noteTrial(trial.id, trial.rev, { note: form.values.note, tags }), {
    onDone: () => {
      form.forget();
      tellDone('Saved.');
    },
    onTrouble: shownAtField(form.setRefused),
  });
  const archive = useSend(() => noteTrial(trial.id, trial.rev, { archived: !trial.archived }), {
    onDone: (now) =>
      tellDone(now.archived ? 'Archived: it stays whole and is listed under Archived.' : 'It is listed again.'),
  });
  return (
    <form
      className={classes.notes}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <h2>Notes and tags</h2>
      <Restored form={form} />
      <Textarea
        label="Note"
        autosize
        minRows={2}
        maxRows={12}
        maxLength={2000}
        value={form.values.note}
        onChange={(e) => form.set('note', e.currentTarget.value)}
        error={form.refused?.at('note')}
      />
      <Tags
        label="Tags"
        description="Words to find it by. Enter after each."
        placeholder="shop, winter menu"
        maxTags={MOST_TAGS}
        maxLength={24}
        data={known}
        value={tags}
        onChange={setTags}
        error={form.refused?.at('tags')}
      />
      <div className={classes.actions}>
        <Button type="submit" variant="default" loading={save.isPending}>
          Save note and tags
        </Button>
        <Button variant="subtle" loading={archive.isPending} onClick={() => archive.mutate()}>
          {trial.archived ? 'Bring back from the archive' : 'Archive the trial'}
        </Button>
      </div>
    </form>
  );
}
