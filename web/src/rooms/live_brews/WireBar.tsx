import { Button } from '@mantine/core';
import { Link } from 'react-router';
import classes from './Along.module.css';
import type { useWire } from './useWire';

/** The real scale of this brew: how it is connected, and what is wrong with it. */
export function WireBar({ wire }: { wire: ReturnType<typeof useWire> }) {
  return (
    <section className={classes.wire} aria-label="The scale">
      {wire.state === 'on' ? (
        <p className="quiet">Listening to the scale. The first water starts the clock.</p>
      ) : (
        <>
          {wire.usb && (
            <Button variant="light" onClick={() => void wire.connectUsb()}>
              Connect a scale by USB
            </Button>
          )}
          {wire.address ? (
            <Button variant="light" onClick={wire.connectNetwork}>
              Connect the scale at {wire.address}
            </Button>
          ) : (
            <p className="quiet small">
              A scale on the network: give its address under Kit,{' '}
              <Link to="/kit/instruments">Accuracy, place, units</Link>.
            </p>
          )}
        </>
      )}
      {wire.trouble && <p role="alert">{wire.trouble}</p>}
    </section>
  );
}
