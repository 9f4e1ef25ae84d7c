import { z } from 'zod';

/** The shop's own limits by id, as input of a calculation. */
export const shopLimitsSchema = z.record(z.string(), z.number());
