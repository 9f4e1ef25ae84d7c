/** The one clock of the page: the server's, which tests may run some days on. */
const said = typeof document === 'undefined' ? undefined : document.querySelector('meta[name="norther-clock-days"]');
const SHIFT_MS = Number(said?.getAttribute('content') ?? 0) * 86_400_000;

export const now = (): Date => new Date(Date.now() + SHIFT_MS);
