/** @example sayMinutes(135) // '2 h 15 min' */
export const sayMinutes = (minutes: number): string => {
  const whole = Math.round(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${whole % 60} min`;
};
