import type { Guidance } from './guidanceText.ts';

/** Of the operations from the released data to the tested, baked winding. Common practice. */
export const WINDING_GUIDANCE = {
  DSG: {
    why: 'From here on wire is cut: what is wrong now is wound a hundred times.',
    good: 'Turns, wire, span, connection and circuits stand as found, or each change stands beside what was found with its reason; two people have read it.',
    mistake: 'The last rewinder’s mistake is copied because it was in the slots.',
  },
  SLP: {
    why: 'A coat in the slots seals bare sheet edges that would cut into the liner and keeps moisture out of them.',
    good: 'A thin, even film, dry to the nail; the slot gauge still runs through every slot.',
    mistake: 'Runs at the slot bottom that take the room of a wire, or a liner pushed in while the film is wet.',
  },
  LIN: {
    why: 'The cell is all there is between the winding and the frame.',
    good: 'Every cell sits on the slot bottom, stands out alike at both ends and its cuffs lie flat on the core.',
    mistake:
      'A cell cut across the grain that springs out, or one pushed to one side so that a corner of the core is bare.',
  },
  WND: {
    why: 'Turns and wire decide voltage and current of the motor; nobody counts them again once they are in.',
    good: 'The counter was set to nothing before each coil, all wires lie side by side without crossing, and coils of one group weigh alike.',
    mistake:
      'A counter that was read after a break, one spool that runs out inside a coil, or enamel scraped on a former with a sharp edge.',
  },
  INS: {
    why: 'What is pressed, nicked or crossed here becomes the turn fault of next year.',
    good: 'The first coil lies in the slot that the card names and leaves on the lead side; wires lie parallel; liner, separator and topstick close each slot before the next.',
    mistake:
      'The first coil one slot off, wires driven past the liner’s edge, or a coil turned round so that its leads come out at the wrong side.',
  },
  SEP: {
    why: 'Two layers of one slot may be of different phases: full line voltage stands between them.',
    good: 'One in every slot with two sides, standing out at both ends, its lips pressed down on the lower side.',
    mistake: 'A separator that slid back while the upper side was pressed in, so that it ends inside the core.',
  },
  WDG: {
    why: 'A loose wedge lets wires swing at twice the supply frequency until their enamel is through.',
    good: 'One in each slot, tight to the thumb, its end just beyond the liner, nothing above the bore.',
    mistake: 'Wedges of the wrong width forced in: they tear the liner’s edge or stand proud and touch the rotor.',
  },
  PHI: {
    why: 'Between groups of different phases the ends touch with the whole line voltage.',
    good: 'A piece between every two neighbours of different phase at both ends, down to the core and up over the coil heads.',
    mistake: 'A piece that was pulled up by lacing and no longer reaches the core, where nobody sees it.',
  },
  CON: {
    why: 'One group turned or one jumper wrong and the motor hums, heats or never starts.',
    good: 'Every joint is ticked against the list, its sleeve already on the wire, the enamel off all round, the metal run through and cold before it is moved.',
    mistake:
      'The sleeve forgotten before joining, a jumper taken one group too short, or a joint that looks wetted and holds by its edge.',
  },
  SLV: {
    why: 'A joint is bare metal among coils that move and swell.',
    good: 'Sleeve over every joint, fifteen millimetres and more past bare metal on both sides, its size snug.',
    mistake: 'Sleeve pierced by a wire tip, or so wide that it slides off when the heads are laced.',
  },
  LDS: {
    why: 'A lead too small heats first where nobody looks, in the terminal box.',
    good: 'The size of the card, marks at both ends, out at the side that was noted when the motor was opened, long enough for the box.',
    mistake: 'Leads brought out at the other side, or marked at one end only and cut through when they are shortened.',
  },
  LAC: {
    why: 'Ends that can move work their joints and wires loose at every start.',
    good: 'Firm to the hand as one body, cord at every coil head, leads tied down, nothing above the bore or past the envelope of before.',
    mistake: 'Cord pulled over a joint until its sleeve gives, or heads beaten into shape with a hard hammer.',
  },
  BOR: {
    why: 'What touches the rotor or a shield now is cut open after the resin has set it.',
    good: 'The gauge runs through the bore; heads are no longer and no fatter than before at both ends; shields go on without rubbing.',
    mistake: 'The head is measured at one place only, and not where the leads lie.',
  },
  PVT: {
    why: 'The last moment at which a wrong coil is lifted out instead of cut out.',
    good: 'Lowest stress first: resistances alike, insulation resistance high, waves over each other, every pole pointing as it should.',
    mistake: 'A small difference waved through because the card is full and the oven is warm.',
  },
  PRE: {
    why: 'Moisture that stays in is baked in; resin on a fit or a foot costs a day of scraping.',
    good: 'Feet, fits, threads, plate and earth pads covered; the part, not the air, has stood at its temperature, and the insulation resistance at like temperature no longer moves.',
    mistake: 'The clock is started with the oven; a heavy core is an hour behind its air.',
  },
  IMPD: {
    why: 'Resin holds the wires, carries their heat out and keeps water away from them.',
    good: 'The part is inside its dip range, goes in slowly, stays until the last bubbles have stopped and a while longer; resin is at its viscosity.',
    mistake: 'A part too hot, whose resin gels at the surface, or a bath nobody measured this month.',
  },
  IMPV: {
    why: 'Vacuum takes the air out of every wire’s neighbourhood, pressure puts resin in its place.',
    good: 'Vacuum reached and held, part covered all the time, pressure held until the capacitance of the winding to frame stands still.',
    mistake:
      'Ended by the clock while the capacitance still climbs, or the level sinks below the heads under pressure.',
  },
  IMPT: {
    why: 'Just as much resin as the winding has voids, without a drop on bore or frame.',
    good: 'The part is warm and turns slowly, resin runs in at both ends and shows at the far side of the slots; it has gelled before it stands still.',
    mistake: 'Dispensed faster than the slots draw it in: it runs over the outside and the middle stays dry.',
  },
  IMPB: {
    why: 'The wire’s own coat is the glue: it melts at one temperature and spoils a little above it.',
    good: 'Cold resistance read after the part has soaked at a known temperature, stopped at the resistance worked out before, coils stiff when cold.',
    mistake: 'The leads’ resistance left in, or a cold reading of a part that came out of the sun.',
  },
  DRN: {
    why: 'Resin that runs on in the oven hangs from one side, and a drop on a foot tilts the motor.',
    good: 'Turned once, dripping no more than a drop a minute, feet, fits, bore and threads wiped while it is still wet.',
    mistake: 'Wiped after the bake.',
  },
  CUR: {
    why: 'Resin that is only dry outside softens at the first load and lets the wires move.',
    good: 'The coldest part was at its temperature for its time by its own sensor; hard to the nail in the middle of the head.',
    mistake: 'The oven’s own display is believed, or the door is opened early because it looks done.',
  },
  CLN: {
    why: 'A skin of resin on a foot or spigot sets the motor out of line; one in the bore touches the rotor.',
    good: 'Bare metal on feet and fits, threads run through, the gauge goes through the bore again.',
    mistake: 'A file used on a spigot fit, or chips left in the heads.',
  },
  PCT: {
    why: 'The winding is judged as it will work; full high potential is applied once in its life.',
    good: 'Readings are corrected for temperature and stand near those before resin; the high potential comes last.',
    mistake:
      'Resistance read on a core that is still warm inside, or the high potential repeated at full value to be sure.',
  },
  FLP: {
    why: 'Length and turns of the loop decide whether the coil fills its slot and reaches round the head.',
    good: 'All loops one length on the gauge, strands flat and side by side, enamel whole at the bends.',
    mistake: 'A loop a few millimetres short that is pulled to shape afterwards and thins at the knuckle.',
  },
  FSP: {
    why: 'A coil that does not lie by itself is beaten in, and beaten insulation fails.',
    good: 'The first coil drops into the core with its packing; knuckles of all coils stand in a line.',
    mistake: 'Every coil is spread before one was tried.',
  },
  FTP: {
    why: 'This wall carries the whole voltage to the core for twenty years.',
    good: 'The lap that is stated, one pull all the way, no wrinkle in the slot part; the gauge slides over it.',
    mistake: 'A lap that thins at the bend, where the field is highest.',
  },
  FCT: {
    why: 'A bad coil on the bench costs an hour, in the core a week.',
    good: 'Every coil stood its tests and bears its number.',
    mistake: 'Tested in a heap, and nobody knows afterwards which one it was.',
  },
  FIN: {
    why: 'Play in the slot becomes wear of the ground wall.',
    good: 'Coils follow the slot map, side packing fills the play, detectors lie in the slots that are named.',
    mistake: 'A packing driven in beside the wall instead of along it.',
  },
  FWG: {
    why: 'A loose wedge lets the bar hammer in its slot.',
    good: 'Tapped along its length it sounds dull and even.',
    mistake: 'Tight at both ends and hollow in the middle.',
  },
  FBR: {
    why: 'At a start the heads are pulled apart with many times the running force.',
    good: 'Rings, blocks and cord make one body; no coil moves by hand.',
    mistake: 'A cord laid dry that loosens when the blocks settle.',
  },
  FT1: {
    why: 'Until the coils are joined, one of them can still be changed.',
    good: 'Every coil and group stood its surge and its voltage to earth.',
    mistake: 'Left out because it is done again after connecting.',
  },
  FCN: {
    why: 'A joint carries the full current beside insulation that bears far less heat than the braze.',
    good: 'Alloy run through the whole lap, wet cloth or shield on the wall, each joint taped to its voltage.',
    mistake: 'Heated until the wall behind the joint is brown under its tape.',
  },
} as const satisfies Record<string, Guidance>;
