/** The storage of this device, which may be full or forbidden: then nothing is kept here, and nobody's work breaks off. */
export const device = {
  read(key: string): string | null {
    try {
      return localStorage.getItem(key);
    } catch {
      return null;
    }
  },
  /** @returns whether it is kept */
  keep(key: string, text: string): boolean {
    try {
      localStorage.setItem(key, text);
      return true;
    } catch {
      return false;
    }
  },
  forget(key: string): void {
    try {
      localStorage.removeItem(key);
    } catch {
      // what cannot be reached was not kept
    }
  },
};
