import { describe, expect, it } from 'vitest';
import { maskList } from './maskList.ts';

const words = (...of: Parameters<typeof maskList>) =>
  maskList(...of)
    .map((m) => m.what)
    .join('; ');

describe('the mask and grease list', () => {
  it('of a stator names feet, fits, holes, threads, plate, earth pads, drain holes and leads', () => {
    for (const part of [/Feet/, /Spigot/, /Bolt holes and threads/, /plate/, /Earth pads/, /Drain holes/, /Lead ends/])
      expect(words('stator')).toMatch(part);
    expect(words('stator')).not.toMatch(/Shaft|Slip rings|sensors|heaters/);
  });
  it('of what turns names the shaft in place of the feet; slip rings and commutator where there are some', () => {
    expect(words('wound-rotor')).toMatch(/Shaft/);
    expect(words('wound-rotor')).toMatch(/Slip rings/);
    expect(words('wound-rotor')).not.toMatch(/Feet/);
    expect(words('armature')).toMatch(/Commutator/);
    expect(words('cage-rotor')).not.toMatch(/Slip rings|Commutator/);
  });
  it('follows what is fitted', () => {
    expect(words('stator', ['thermal sensors'])).toMatch(/thermal sensors/);
    expect(words('stator', ['heaters'])).toMatch(/heaters/);
    expect(words('armature', ['heaters'])).not.toMatch(/heaters/);
  });
});
