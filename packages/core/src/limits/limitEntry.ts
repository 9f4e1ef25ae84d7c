/** A limit as data: what is published, where, and what the shop uses instead. */
export interface LimitEntry {
  id: string;
  title: string;
  unit: string;
  published: number;
  source: string;
  group:
    | 'winding'
    | 'sizes'
    | 'insulation resistance'
    | 'winding resistance'
    | 'single-phase rotor test'
    | 'surge comparison'
    | 'high potential'
    | 'phase balance'
    | 'before and after'
    | 'no-load run'
    | 'single-phase'
    | 'slip rings'
    | 'cure'
    | 'balance'
    | 'route';
}
