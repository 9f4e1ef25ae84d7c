import type { JobDetail, ShopSettings } from '@norther/contracts';

/** What a report says, as it stood when it was issued. */
export interface ReportSource {
  job: JobDetail;
  settings: ShopSettings;
  issuer: { name: string; role: string; at: string };
}
