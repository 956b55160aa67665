import { Modal } from '@mantine/core';
import classes from './Shell.module.css';
import type { Action } from './useKeys';

/** What each key does. */
export default function KeysHelp({ actions, onClose }: { actions: Action[]; onClose: () => void }) {
  return (
    <Modal opened onClose={onClose} title="Keys">
      <dl className={classes.keys}>
        <div>
          <dt>
            <kbd>Ctrl</kbd>
            <kbd>K</kbd>
          </dt>
          <dd>Find anything</dd>
        </div>
        {actions
          .filter((a) => a.keys)
          .map((a) => (
            <div key={a.keys}>
              <dt>
                {a.keys.split(' ').map((key) => (
                  <kbd key={key}>{key}</kbd>
                ))}
              </dt>
              <dd>{a.label}</dd>
            </div>
          ))}
      </dl>
    </Modal>
  );
}
