import type { Alarm } from '@norther/core';
import { Volume2, VolumeX } from 'lucide-react';
import { useEffect, useState } from 'react';
import { device } from '../../app/device.ts';
import { Button } from '../../ui/Button.tsx';

const SOUND = 'norther.alarm-sound';

/** Sounds while there is something to see to, on a device that wants it; the choice stays with the device. */
export function AlarmSound({ on }: { on: boolean }) {
  const [sound, setSound] = useState(() => device.read(SOUND) !== 'off');
  useBeep(sound && on);
  return (
    <Button
      look="quiet"
      className="ml-auto"
      onClick={() => {
        device.keep(SOUND, sound ? 'off' : 'on');
        setSound(!sound);
      }}
      aria-pressed={sound}
    >
      {sound ? <Volume2 className="size-4" /> : <VolumeX className="size-4" />} alarm sound
    </Button>
  );
}

export const Alarms = ({ alarms }: { alarms: readonly Alarm[] }) =>
  alarms.map((a) => (
    <p key={a.code + a.says} role="alert" className="border-l-4 border-fail bg-fail-tint pl-2 py-1 font-semibold">
      {a.says}
    </p>
  ));

/** Two short notes every four seconds while there is something to see to. */
function useBeep(on: boolean): void {
  useEffect(() => {
    if (!on) return;
    let context: AudioContext | undefined;
    const beep = (): void => {
      try {
        context ??= new AudioContext();
        for (const [after, pitch] of [
          [0, 880],
          [0.25, 660],
        ] as const) {
          const tone = context.createOscillator();
          const loud = context.createGain();
          tone.frequency.value = pitch;
          loud.gain.value = 0.15;
          tone.connect(loud).connect(context.destination);
          tone.start(context.currentTime + after);
          tone.stop(context.currentTime + after + 0.2);
        }
      } catch {
        // a device without sound shows the alarm all the same
      }
    };
    beep();
    const timer = setInterval(beep, 4000);
    return () => {
      clearInterval(timer);
      void context?.close();
    };
  }, [on]);
}
