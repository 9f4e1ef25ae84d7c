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
    | 'change since before'
    | 'surge comparison'
    | 'high potential'
    | 'phase balance'
    | 'failure analysis'
    | 'no-load run'
    | 'load test'
    | 'assembly'
    | 'single-phase'
    | 'slip rings'
    | 'cure'
    | 'balance'
    | 'route';
}
