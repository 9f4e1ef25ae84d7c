/** What an owner's words say of how it went, read off them. Source: common practice. */
export const COMPLAINT_SIGNS = {
  hums: /\bhum|does ?n[o']t (?:start|turn)|did ?n[o']t start|won'?t (?:start|turn)|will not (?:start|turn)|would not (?:start|turn)|stall|jam|stuck|blocked shaft/i,
  'lost a phase': /single.?phas|phase (?:lost|loss|fail|missing|out)|lost (?:a|one) phase|fuse|contactor/i,
  trips: /\btrip/i,
  hot: /\bhot\b|overheat|too warm|\bheat|smell|smok|burn/i,
  noise: /nois|squeal|grind|rumbl|rattl|knock|vibrat|bearing|scrap|rub/i,
  wet: /\bwet\b|water|flood|damp|wash|spray|rain|salt|\bsea\b|condens|moist/i,
  drive: /inverter|\bdrive\b|\bVFD\b|frequency converter|soft.?start/i,
} as const;
export type ComplaintSign = keyof typeof COMPLAINT_SIGNS;
export const SIGNS = Object.keys(COMPLAINT_SIGNS) as ComplaintSign[];

/** The signs that an owner's words hold. @example complaintSigns('Trips, gets hot.') // ['trips', 'hot'] */
export const complaintSigns = (words: string): ComplaintSign[] => SIGNS.filter((s) => COMPLAINT_SIGNS[s].test(words));
