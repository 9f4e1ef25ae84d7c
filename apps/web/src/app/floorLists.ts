import type { JobSummary } from '@norther/contracts';

export interface FloorList {
  jobs: JobSummary[];
  total: number;
}

/** A list of the floor with one motor as it stands now: in the house by the day it came, those that left newest first. */
export function withMotor(list: FloorList, motor: JobSummary, closed: boolean): FloorList {
  const rest = list.jobs.filter((j) => j.number !== motor.number);
  const was = rest.length < list.jobs.length;
  const belongs = (motor.closedAt !== null) === closed;
  if (!belongs) return was ? { jobs: rest, total: list.total - 1 } : list;
  const after = (j: JobSummary) =>
    closed ? (j.closedAt ?? '') < (motor.closedAt ?? '') : j.takenInAt > motor.takenInAt;
  const at = rest.findIndex(after);
  const place = at < 0 ? rest.length : at;
  return {
    jobs: [...rest.slice(0, place), motor, ...rest.slice(place)],
    total: was ? list.total : list.total + 1,
  };
}
