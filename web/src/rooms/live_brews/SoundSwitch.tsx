import { Switch } from '@mantine/core';
import { useState } from 'react';
import { call, setSound, soundIsOn } from '../../ui/sound';
import { canSpeak, isReadAloud, say, setReadAloud } from '../../ui/speech';

/** Whether this device calls when a step is due. */
export function SoundSwitch() {
  const [on, setOn] = useState(soundIsOn);
  return (
    <Switch
      size="sm"
      label="Sound"
      checked={on}
      onChange={(e) => {
        setSound(e.currentTarget.checked);
        setOn(e.currentTarget.checked);
        call(); // so that one knows what to listen for
      }}
    />
  );
}

/** Whether this device reads each step aloud; not shown where it cannot. */
export function AloudSwitch() {
  const [on, setOn] = useState(isReadAloud);
  if (!canSpeak()) return null;
  return (
    <Switch
      size="sm"
      label="Read aloud"
      checked={on}
      onChange={(e) => {
        setReadAloud(e.currentTarget.checked);
        setOn(e.currentTarget.checked);
        say('Steps are read aloud.');
      }}
    />
  );
}
