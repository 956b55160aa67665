import { Switch } from '@mantine/core';
import { useState } from 'react';
import { call, setSound, soundIsOn } from '../../ui/sound';
import { canSpeak, isReadAloud, say, setReadAloud } from '../../ui/speech';

type DeviceSwitchProps = { label: string; isOn: () => boolean; set: (on: boolean) => void; sample: () => void };

/** Something this device does or not; a sample says what to listen for. */
function DeviceSwitch({ label, isOn, set, sample }: DeviceSwitchProps) {
  const [on, setOn] = useState(isOn);
  return (
    <Switch
      size="sm"
      label={label}
      checked={on}
      onChange={(e) => {
        set(e.currentTarget.checked);
        setOn(e.currentTarget.checked);
        sample();
      }}
    />
  );
}

/** Whether this device calls when a step is due. */
export const SoundSwitch = () => <DeviceSwitch label="Sound" isOn={soundIsOn} set={setSound} sample={call} />;

/** Whether this device reads each step aloud; not shown where it cannot. */
export const AloudSwitch = () =>
  canSpeak() && (
    <DeviceSwitch
      label="Read aloud"
      isOn={isReadAloud}
      set={setReadAloud}
      sample={() => say('Steps are read aloud.')}
    />
  );
