/** What a test is to be done with, said before it is done: worked out from nameplate, winding and what was done. */
export interface Due {
  /** one line each: what, how much, by which rule */
  says: readonly string[];
  /** the figure that counts, as a cell of the matrix shows it */
  short?: string;
  /** what the form is filled in with, where nothing was typed yet */
  typed?: Readonly<Record<string, string>>;
}
