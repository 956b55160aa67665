import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useQueryClient } from '@tanstack/react-query';
import { api, Refused, take } from '../api/client';

const close = { closeButtonProps: { 'aria-label': 'Dismiss' } };

/** Say that something went wrong, in the bench's own words. */
export function tellTrouble(error: unknown) {
  notifications.show({ ...close, color: 'red', title: 'Couldn’t save', message: messageOf(error), autoClose: 9000 });
}

export function messageOf(error: unknown): string {
  if (error instanceof Refused) return error.message;
  console.error(error);
  return 'Something unexpected happened here. Reload the page; what was saved is safe.';
}

export function tellDone(message: string) {
  notifications.show({ ...close, message, autoClose: 4000 });
}

/** What is told once and stays until it is dismissed. */
export function tellToNote(message: string) {
  notifications.show({ ...close, message, autoClose: false });
}

/** Deleting says what was deleted and offers to take it back. */
export function useTellDeleted() {
  const client = useQueryClient();
  return (what: string, changeId: string | null) => {
    const id = `deleted-${changeId}`;
    const undo = async () => {
      notifications.hide(id);
      try {
        await take(api.POST('/api/v1/changes/{id}/undo', { params: { path: { id: changeId! } } }));
        await client.invalidateQueries();
        tellDone(`${what} is back.`);
      } catch (error) {
        tellTrouble(error);
      }
    };
    notifications.show({
      ...close,
      id,
      autoClose: 12000,
      message: (
        <span style={{ display: 'flex', gap: 12, alignItems: 'center' }}>
          {what} was deleted.
          {changeId && (
            <Button size="compact-sm" variant="light" onClick={undo}>
              Undo
            </Button>
          )}
        </span>
      ),
    });
  };
}
