import { Switch } from '@mantine/core';
import { useState } from 'react';
import { call, setSound, soundIsOn } from '../../ui/sound';

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
