import type { Guidance } from './guidanceText.ts';

/** Of intake, inspection, stripping, core, rotor and final work. Common practice. */
export const BENCH_GUIDANCE = {
  INT: {
    why: 'What is not written down at the gate is argued about at the end.',
    good: 'Frame and every loose part bear the job’s tag; plate, terminal box and damage are photographed; the customer’s own words stand on the job.',
    mistake: 'Half a coupling or a key goes back to nobody because it had no tag.',
  },
  TAF: {
    why: 'The fault as it came is evidence; after cleaning it is gone.',
    good: 'Readings of a dead winding too, each with instrument and temperature; nothing was run below its insulation minimum.',
    mistake: 'The motor is switched on to see what happens.',
  },
  DIS: {
    why: 'It goes together again in weeks, by somebody else.',
    good: 'Both shields and frame are marked across the joint, shims are counted and tied to their foot, the lead side is on a photograph.',
    mistake: 'Shields that fit both ways, and marks on one of them.',
  },
  MEC: {
    why: 'A new winding in a worn housing is a warranty case.',
    good: 'Seats are measured in three planes and two directions, feet on the plate, run-out on blocks.',
    mistake: 'One diameter is measured, and the seat is oval.',
  },
  RCA: {
    why: 'Without its cause it fails again in the same way.',
    good: 'The pattern is named by what was seen (one phase, two phases, a turn, earth, all even, bearing, rub) and has its photographs.',
    mistake: '“Burned out” is written, which is what the customer said.',
  },
  CT1: {
    why: 'Only a figure from before the oven shows what the oven did to the core.',
    good: 'Turns and voltage of the set-up, flux by a search turn, loss per kilogram, hottest spot after it has warmed.',
    mistake: 'Left out because the core looks good, and nobody can tell afterwards whose the hot spot is.',
  },
  QTE: {
    why: 'Work nobody ordered is not paid, and an order nobody wrote down is denied.',
    good: 'Scope, price, date and the name of who approved.',
    mistake: 'Begun on the telephone.',
  },
  DAT: {
    why: 'The winding is cut away in an hour; the data are all that stays of it.',
    good: 'Every group is counted, span by slots and by teeth, leads, circuits and jumpers traced; seen from a stated end; a second person has counted too.',
    mistake: 'One group is counted and the others are taken for alike; 3-2-3-2 is found in the bin.',
  },
  CUT: {
    why: 'The connection end is the drawing of the old winding: it stays until the data are agreed.',
    good: 'The plain end is cut close to the core without touching a tooth; what was cut off is kept and weighed.',
    mistake: 'A blade that runs into the end sheets and welds two of them together.',
  },
  BRN: {
    why: 'Resin must go, the insulation between the sheets must stay; only degrees lie between.',
    good: 'A sensor in the teeth and one in the back iron; the hottest stays below the limit of the core plate, the coldest long enough at burning temperature.',
    mistake: 'The dial is set and believed while varnish burns in the slots a hundred degrees hotter.',
  },
  WPL: {
    why: 'No flame and no oven: the core never comes near the limit of its plate, and the copper comes out clean enough to weigh.',
    good: 'Only the slot part is hot, just so far that the resin lets go; the coil comes straight along the slot in one slow pull and leaves an empty cell behind.',
    mistake: 'Pulled too cold, with force instead of heat: teeth flare at the end, the pack splays.',
  },
  SOK: {
    why: 'Where neither fire nor force may be used: bonded packs, aluminium frames, thin teeth.',
    good: 'The resin is soft down to the slot bottom before anything is pulled; afterwards slots and ducts are rinsed until nothing smells of the bath.',
    mistake: 'Stripper stays in a duct and creeps into the new winding; or it goes down the drain.',
  },
  COL: {
    why: 'Thin teeth cool faster than yoke and frame: they pull away, and feet and bore go out of shape.',
    good: 'The door stays shut; at most 60 K an hour while above 200 °C, opened at 120 °C or less, touched at 45 °C.',
    mistake: 'The door is put ajar over lunch.',
  },
  STR: {
    why: 'The scale knows whether turns, wire and span were counted right.',
    good: 'Coils are pulled straight out of the slots; all copper, the cut end too, is on the scale without liner and ash.',
    mistake: 'Coils are levered over the teeth, which bend outwards for good.',
  },
  DA2: {
    why: 'Turns and bare wire can only be counted and measured now, on coils that are clean.',
    good: 'A whole group of each kind is counted wire by wire, bare and over the enamel at three places; samples are kept with the job.',
    mistake: 'The copper goes into the bin before the release, and the question comes after it.',
  },
  TT1: {
    why: 'Grit that is blown between open end sheets cannot be washed out and shorts them.',
    good: 'End sheets lie closed, no gap takes a fingernail.',
    mistake: 'Blasted first, straightened afterwards.',
  },
  BLS: {
    why: 'Old liner and ash left in a slot take the room of wire and hold moisture.',
    good: 'Soft, clean media at low pressure; the slots are clean, their edges still sharp, and the metal is not peened.',
    mistake: 'Sand or a hard bead: quick, and it smears the sheets of the teeth into one.',
  },
  WSH: {
    why: 'Dust under a liner is abrasive and drinks water.',
    good: 'Rinsed through slots and ducts until it runs clear, dried until the core itself is dry.',
    mistake: 'Media left in the ducts, which come out on the first run.',
  },
  TT2: {
    why: 'A bent tooth or a burr cuts the liner.',
    good: 'Burrs are drawn along the sheets, never across; the gauge goes through every slot.',
    mistake: 'A file across the teeth that smears sheet to sheet.',
  },
  CT2: {
    why: 'A core that was hurt heats the new winding from outside.',
    good: 'The same loop and flux as before heat; loss hardly higher, no spot that stands out from the core round it.',
    mistake: 'Other turns or another voltage, so that the two figures say nothing about each other.',
  },
  OWS: {
    why: 'Dirt and salt conduct as soon as they are damp.',
    good: 'Washed at a pressure that does not lift insulation, rinsed until clear water comes.',
    mistake: 'A jet held so near that it strips the ends.',
  },
  ODR: {
    why: 'A damp winding reads low and fails under voltage though it is sound.',
    good: 'The part stands at its temperature for two hours and three readings half an hour apart, compared at like temperature, move by less than 5 %.',
    mistake: 'The resistance is read while it still heats: it falls with temperature, and damp is read into it.',
  },
  OTT: {
    why: 'They decide whether the old winding goes back or is cut out.',
    good: 'Insulation, polarization, surge and the reduced high potential for a winding in service.',
    mistake: 'A doubtful reading is let pass because the customer ordered an overhaul.',
  },
  RIN: {
    why: 'A cracked bar or a rub is seen now or heard later.',
    good: 'Bars, rings and fan are clean and looked at in good light; rub marks and blue spots are on a photograph.',
    mistake: 'It is looked at dirty, and the crack stays under the dust.',
  },
  RBT: {
    why: 'Open bars make the current beat and the torque sag, with a perfect stator.',
    good: 'Turned by hand through a whole turn, the reading swings by no more than 3 %.',
    mistake: 'The rotor is turned half a turn.',
  },
  RJR: {
    why: 'What is bent cannot be balanced.',
    good: 'On its bearing seats, the shaft end, core and coupling seat are within their run-out.',
    mistake: 'Run-out taken between worn centres.',
  },
  MRP: {
    why: 'Fits decide the life of a bearing more than its make.',
    good: 'Sizes before and after with the fit they are to have.',
    mistake: 'A seat is punched up to hold the bearing.',
  },
  RBL: {
    why: 'What is left over goes into the bearings at every turn.',
    good: 'Half key stated, residual in both planes inside the grade, masses fixed so that they stay.',
    mistake: 'Balanced with a full key, or with the fan lying on the bench.',
  },
  BRG: {
    why: 'A bearing that was hammered on has its marks before its first turn.',
    good: 'Heated to no more than 110 °C, seated against its shoulder, turns quietly; the insulated one is at its own end.',
    mistake: 'Pressed on over the outer ring.',
  },
  RGP: {
    why: 'A rotor out of the middle pulls to one side and hums at twice the frequency.',
    good: 'Four points at each end, each within a tenth of their mean.',
    mistake: 'Feelers pushed on a tooth with resin on it.',
  },
  ASM: {
    why: 'The last hour decides whether everything before it stays whole.',
    good: 'Rotor in on a guide without touching the heads, marks together, bolts by torque, turns by hand, end float within its limit.',
    mistake: 'A lead caught under a shield.',
  },
  RUN: {
    why: 'The first time that winding, rotor and bearings are judged together.',
    good: 'Three currents alike at a voltage that is alike, the right way round, no vibration above its grade, bearings steady.',
    mistake: 'Let go before the bearings have reached their temperature.',
  },
  LDT: {
    why: 'Only load shows whether it carries what its plate says.',
    good: 'Lined up, loaded in steps to its rated output, readings steady, rise within its class.',
    mistake: 'Read before it is steady.',
  },
  PNT: {
    why: 'Paint on a breather or plate is a fault of its own.',
    good: 'Shaft, plate, breathers and earth pads masked; even, dry film.',
    mistake: 'The drain holes are painted shut.',
  },
  DSP: {
    why: 'A rotor that shakes on a lorry dents its bearings at rest.',
    good: 'Shaft locked, loose parts on the list and in the box, report signed and with it.',
    mistake: 'The coupling half of the intake stays on the shelf.',
  },
} as const satisfies Record<string, Guidance>;
