/* Generated from docs/schema by script/format. Do not edit. */

/**
 * The whole document.
 */
export interface Plan {
  format: "calm-basin-plan";
  version: 14;
  job: Job;
  display: DisplayChoice;
  rule_set: string;
  room: Room;
  floor: JoistFloor | SlabFloor;
  shower: Shower;
  /**
   * by which the shower is built; null: none was chosen
   */
  system: BuildSystem | null;
  /**
   * whether the rules for accessible rooms bind this one
   */
  accessible: boolean;
  /**
   * limits that this job keeps at another value
   */
  overrides: Override[];
  /**
   * who will use the room; empty: nobody said
   */
  users: ("walks" | "frame" | "carer" | "chair" | "powered")[];
  /**
   * the side of the WC from which somebody changes over to it
   */
  transfer: ("left" | "right") | null;
  survey: Survey;
  water: Water;
  waste: Waste;
  /**
   * pipes, cables and heating that were found
   */
  services: Service[];
  order: Order;
  days: Days;
  setting_out: SettingOut;
  walls: WallBuild;
  membrane: Membrane1;
  tiling: Tiling;
  /**
   * the cable in the floor; null: there is none
   */
  heating: Heating | null;
  /**
   * pointers of measures and choices that nobody has made or confirmed yet
   */
  assumed: string[];
}
export interface Job {
  name: string;
  note: string;
}
/**
 * How lengths and falls are shown and what a bare number means when typed.
 */
export interface DisplayChoice {
  length: "mm" | "cm" | "m" | "in" | "ft";
  fraction: 16 | 32 | 64;
  fall: "ratio" | "percent" | "in_per_ft" | "mm_per_m" | "degrees";
}
export interface Room {
  outline: [number, number][];
  doors: Door[];
  fixtures: Fixture[];
  layers: Layer[];
  /**
   * the finished floor where it is down already, from the deck or slab top; null: it follows from the layers
   */
  laid: number | null;
}
/**
 * An opening in one wall: ``offset`` from the wall's first corner to the near jamb.
 *
 * ``outside`` is the finished floor on its other side, ``ramp`` the length of one laid there.
 */
export interface Door {
  wall: number;
  offset: number;
  width: number;
  kind: "hinged" | "sliding";
  hinge: "first" | "last";
  swing: "in" | "out";
  /**
   * what the open leaf takes of the width; null: what is usual
   */
  leaf_and_stop: number | null;
  /**
   * the finished floor outside it, above the existing deck; null: not measured
   */
  outside: number | null;
  /**
   * length of a ramp beyond it; 0: none
   */
  ramp: number;
}
/**
 * What stands or hangs in the room: a rectangle, ``width`` along ``turn``.
 *
 * Its back is against a wall as a rule; at turn 0 its front looks up the plan. ``height`` is that
 * of a seat's top, of a bar's or a control's middle above the finished floor; 0 where it does not
 * matter.
 */
export interface Fixture {
  name: string;
  kind:
    | "WC"
    | "basin"
    | "cabinet"
    | "washing machine"
    | "radiator"
    | "column"
    | "seat"
    | "folding seat"
    | "bench"
    | "half wall"
    | "bar"
    | "control"
    | "head"
    | "screen"
    | "curtain"
    | "other";
  /**
   * @minItems 2
   * @maxItems 2
   */
  centre: [number, number];
  width: number;
  length: number;
  turn: number;
  height: number;
}
/**
 * One layer of a build-up: what it is there and what it is called; ``least`` and ``most`` are
 * how thick its kind usually is.
 */
export interface Layer {
  role: "tile" | "adhesive" | "membrane" | "board" | "plywood" | "cable" | "cast" | "other";
  name: string;
  thickness: number;
  /**
   * null: nothing is known
   */
  least: number | null;
  /**
   * null: nothing is known
   */
  most: number | null;
}
/**
 * Boards on joists. The first joist's centre line lies ``first_offset`` from the plan's
 * origin, measured square to ``direction`` (anticlockwise side positive).
 *
 * ``width`` is that of a sawn joist, of an I-joist's flange or of a truss's chord.
 */
export interface JoistFloor {
  kind: "joists";
  deck_thickness: number;
  /**
   * of the joists, anticlockwise from the x axis
   */
  direction: number;
  centres: number;
  width: number;
  depth: number;
  first_offset: number;
  joist: "sawn" | "i_joist" | "truss";
  /**
   * height of an I-joist's flange or a chord
   */
  flange: number;
  /**
   * thickness of an I-joist's web
   */
  web: number;
  /**
   * of the joists between what carries them; null: not measured
   */
  span: number | null;
  /**
   * where the span begins, along the joists from the origin; null: not measured
   */
  bearing: number | null;
  others: OtherJoist[];
  members: Member[];
  beams: Beam[];
  /**
   * for joists that are planned to be cut; null: nobody signed yet
   */
  signed: Signed | null;
  /**
   * whether a ceiling hangs from the joists
   */
  ceiling: boolean;
}
/**
 * A joist that is not as the others: ``number`` counts from the first one, which is 0, to the
 * anticlockwise side; it may be moved, doubled, left out or cut short by a trimmer.
 *
 * ``start`` and ``end`` lie along the joists, from the plan's origin; null: it goes on. What is
 * ``planned`` is not so yet: an engineer has to sign for it before it is cut.
 */
export interface OtherJoist {
  number: number;
  moved: number;
  plies: number;
  left_out: boolean;
  start: number | null;
  end: number | null;
  planned: boolean;
}
/**
 * A timber beside the joists, as deep as they are: from ``start`` to ``end`` of its middle.
 */
export interface Member {
  kind: "joist" | "trimmer" | "blocking";
  /**
   * @minItems 2
   * @maxItems 2
   */
  start: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  end: [number, number];
  width: number;
}
/**
 * What carries the joists: below them, or flush with them, its middle from ``start`` to
 * ``end``.
 */
export interface Beam {
  kind: "girder" | "wall";
  /**
   * @minItems 2
   * @maxItems 2
   */
  start: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  end: [number, number];
  width: number;
  flush: boolean;
}
/**
 * The engineer who signed for what is changed in the structure, and on which day.
 */
export interface Signed {
  name: string;
  /**
   * such as 2026-11-30
   */
  on: string;
}
/**
 * A slab; ``membrane`` is the depth of a damp-proof membrane below its top.
 */
export interface SlabFloor {
  kind: "slab";
  thickness: number;
  reinforcement: "unknown" | "none" | "bars" | "post_tensioned";
  membrane: number | null;
}
export interface Shower {
  outline: [number, number][];
  /**
   * which edges of the outline are walked or rolled over
   */
  entries: number[];
  /**
   * how far the shower's edge lies below the room at the entry; below 0 above it
   */
  set_down: number;
  /**
   * of the step at the entry; null: its edge is square
   */
  bevel: Bevel | null;
  /**
   * above the bed or tray
   */
  layers: Layer[];
  former: MortarBed | Tray | SlopePanels;
  drain: PointDrain | LinearDrain;
  second_drain: PointDrain | null;
  fall: Fall;
  rest: Rest | null;
  /**
   * of the floor, where it is chosen
   */
  tile: Tile | null;
}
/**
 * The sloped part of an entry's edge: how high it is and how far it runs.
 */
export interface Bevel {
  height: number;
  run: number;
}
/**
 * A setting bed whose thinnest place is at the drain; laid in two lifts it is the upper one.
 */
export interface MortarBed {
  kind: "bed";
  least_thickness: number;
  /**
   * under the membrane; null: the bed is one lift
   */
  lower: LowerLift | null;
}
/**
 * The lower lift of a bed in two lifts: it falls from all sides to the drain's body and carries
 * the membrane, on which the upper lift lies. ``least_thickness`` is at the drain.
 */
export interface LowerLift {
  least_thickness: number;
  membrane: number;
  /**
   * from all sides to the drain's body
   */
  fall: number;
}
/**
 * A preformed tray with its falls built in: its size is the shower's plus what was cut off, or
 * that of ``stock``, which is laid out from the riser: its own drain comes to lie where the
 * shower's is, and what is over is cut.
 *
 * ``raised`` packs the whole tray up, ``most_cut`` is what its maker allows on a side. A tray
 * whose maker states its falls is judged by those, ``stated``, not by what its size would make of
 * them.
 */
export interface Tray {
  kind: "tray";
  edge_thickness: number;
  cuts: SideCut[];
  raised: number;
  /**
   * on a side; common practice: 6 in
   */
  most_cut: number;
  /**
   * the tray as it is delivered; null: its cuts are given instead
   */
  stock: StockTray | null;
  /**
   * of a stock tray, towards the entry; null: none
   */
  extension: Extension | null;
  /**
   * null: its maker states none
   */
  stated: StatedFalls | null;
}
/**
 * What was cut off a tray along one edge of the shower; below 0 it is extended there.
 */
export interface SideCut {
  edge: number;
  width: number;
}
/**
 * A tray as it is delivered, a rectangle: ``width`` lies along the entry, ``length`` from it to
 * the back; the middle of its own drain lies ``drain_left`` from its left edge, as seen by whoever
 * comes in, and ``drain_back`` from its back edge.
 */
export interface StockTray {
  width: number;
  length: number;
  drain_left: number;
  drain_back: number;
}
/**
 * A piece that goes on from a tray's entry side with a rise of its own; only its plain end,
 * at the entry, may be cut.
 */
export interface Extension {
  length: number;
  rise: number;
}
/**
 * The flattest and the steepest fall of a tray by its maker, rise over run.
 */
export interface StatedFalls {
  least: number;
  most: number;
}
/**
 * Wedge-shaped panels beside a linear drain: their fall is built in.
 */
export interface SlopePanels {
  kind: "panels";
  thin_edge: number;
  thick_edge: number;
  length: number;
  /**
   * of one panel, along the channel
   */
  width: number;
}
/**
 * A drain with a rectangular rim; ``width`` lies along ``orientation``.
 */
export interface PointDrain {
  kind: "point";
  /**
   * @minItems 2
   * @maxItems 2
   */
  centre: [number, number];
  width: number;
  length: number;
  orientation: number;
}
/**
 * A channel between two end points of its centre line.
 */
export interface LinearDrain {
  kind: "linear";
  /**
   * @minItems 2
   * @maxItems 2
   */
  start: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  end: [number, number];
  width: number;
  /**
   * fall of the strips beyond its ends; null: level as drawn
   */
  strips: number | null;
  /**
   * from the start to where the waste leaves; null: the middle
   */
  outlet: number | null;
  /**
   * how the channel meets the wall tile at its two ends
   */
  ends: "finished" | "deducted" | "notched";
}
/**
 * The fall asked for. ``measured`` and ``edge`` matter at a point drain: the run that it is
 * measured over, and whether the whole edge stays level or the same fall runs everywhere; an even
 * floor may keep its entries level (``entry_level``).
 */
export interface Fall {
  asked: number;
  measured: "corner_run" | "plane_run";
  edge: "level" | "even";
  entry_level: boolean;
}
/**
 * The rest of a wet room's floor, which falls to the shower zone too: from level walls, or the
 * same fall everywhere with walls that rise from the zone and doors that stay level.
 */
export interface Rest {
  asked: number;
  walls: "level" | "rising";
}
/**
 * The tile of the shower's floor and the joint between tiles. Its length lies along the entry,
 * turned by ``turn`` (anticlockwise).
 */
export interface Tile {
  length: number;
  width: number;
  joint: number;
  turn: number;
}
/**
 * What is bought and how it is put in, described by what it is.
 *
 * A plan holds a copy, so that it stays what it was when the list changes. ``family`` and ``base``
 * name a drain family and what the floor has to carry; ``channel`` is where a linear drain lies.
 */
export interface BuildSystem {
  id: string;
  name: string;
  /**
   * what it is, in a sentence
   */
  says: string;
  floors: ("joists" | "slab")[];
  drain: "point" | "linear";
  channel: ("back" | "left" | "right" | "entry" | "middle") | null;
  family: string;
  base: string;
  former: TrayForm | BedForm | PanelForm;
  layers: BuildUp;
  pour: PourForm | null;
  zones: Zones | null;
  deck: DeckLimit[];
  bedding: Bedding[];
  waits: Wait[];
  membrane: Membrane[];
  practice: Practice;
}
/**
 * A preformed tray: ``trims`` are the sides that may be cut, each by ``most_cut``; ``rebate``
 * is cut anew where a side takes a wall panel (0: there is none); ``base`` is how high the base is
 * that it brings, which stands on the deck as it is (0: it brings none); ``most_over`` is how far
 * its edge may stand over the room's floor (null: nothing is stated).
 */
export interface TrayForm {
  document: string;
  from_memory: boolean;
  kind: "tray";
  fall: number;
  edge_thickness: number;
  sizes: StockTray[];
  trims: ("entry" | "back" | "left" | "right")[];
  most_cut: number;
  rebate: number;
  extension: Extension | null;
  base: number;
  most_over: number | null;
}
/**
 * A setting bed in one lift or two.
 */
export interface BedForm {
  document: string;
  from_memory: boolean;
  kind: "bed";
  fall: number;
  least_thickness: number;
  lower: LowerLift | null;
}
/**
 * Wedge-shaped panels, or foam trays that fall one way, beside a channel.
 */
export interface PanelForm {
  document: string;
  from_memory: boolean;
  kind: "panels";
  thin_edge: number;
  thick_edge: number;
  length: number;
  width: number;
}
/**
 * Layers that a system brings with it, each with its usual range, from the tile down.
 */
export interface BuildUp {
  document: string;
  from_memory: boolean;
  shower: Layer[];
  /**
   * that go on the room's deck, from the top down
   */
  room: Layer[];
}
/**
 * Self-levelling compound that is poured in the shower under it, every time.
 */
export interface PourForm {
  document: string;
  from_memory: boolean;
  cover: number;
}
/**
 * The fall of the rest of a wet room, where the system is cast in two zones.
 */
export interface Zones {
  document: string;
  from_memory: boolean;
  rest: number;
}
/**
 * How far joists may be apart under a deck of at least this thickness.
 */
export interface DeckLimit {
  document: string;
  from_memory: boolean;
  deck: number;
  centres: number;
}
/**
 * One school of how it is bedded and held.
 */
export interface Bedding {
  document: string;
  from_memory: boolean;
  school: string;
  trowel: string;
  faces: string;
  direction: string;
  adhesive: string;
  water: string;
  quantity: string;
  /**
   * the same as a figure, where it is one
   */
  takes: Takes | null;
  air: string;
  fixing: string;
  /**
   * what holds it down while it sets
   */
  holds: string;
  /**
   * when it may be stepped on
   */
  stand: string;
}
/**
 * How much of something goes under a tray of a size.
 */
export interface Takes {
  amount: number;
  unit: string;
  width: number;
  length: number;
}
/**
 * How long something has to be left alone.
 */
export interface Wait {
  document: string;
  from_memory: boolean;
  what: string;
  time: string;
}
/**
 * The school by which it is made watertight.
 */
export interface Membrane {
  document: string;
  from_memory: boolean;
  school: string;
  says: string;
}
/**
 * Tools and habits.
 */
export interface Practice {
  document: string;
  from_memory: boolean;
  tools: string[];
  /**
   * tools that people forget
   */
  forgotten: string[];
  /**
   * what is kept back for later
   */
  hold_back: string[];
  /**
   * what goes wrong
   */
  wrong: string[];
}
/**
 * A limit of the rule set that this job keeps at another value, and why.
 *
 * ``topic``, ``binds`` and ``applies_to`` name the limit; ``given`` is written as a limit is: a
 * fall such as ``1:50``, or a length such as ``20mm``.
 */
export interface Override {
  topic: string;
  binds: "at_least" | "at_most";
  applies_to: string;
  given: string;
  reason: string;
}
/**
 * What was measured of the room as it is, and how its floor is made true.
 */
export interface Survey {
  tape: Tape | null;
  levels: (HeightReading | StaffReading | ShimReading)[];
  /**
   * what the floor has to carry
   */
  base: string;
  correction: (Pour | FrameLevel | PackLevel) | null;
}
export interface Tape {
  walls: TapedWall[];
  diagonals: Diagonal[];
}
/**
 * A wall as it was taped, walking round the room with the room on the left hand.
 *
 * ``turn`` is where its end corner turns to: left at an ordinary corner, right at an inner one.
 * ``square`` says whether that corner may be taken as square where no tape says otherwise.
 */
export interface TapedWall {
  length: number;
  turn: "left" | "right";
  square: boolean;
}
/**
 * A taped distance between two corners; corner ``i`` is where wall ``i`` begins.
 */
export interface Diagonal {
  first: number;
  last: number;
  length: number;
}
/**
 * A height of the floor, up positive, from any benchmark that all readings share.
 */
export interface HeightReading {
  kind: "height";
  x: number;
  y: number;
  height: number;
}
/**
 * A staff read under a laser: a larger reading is lower. ``instrument`` is the laser plane's
 * height above the benchmark, kept with the reading so that the laser may be set up anew.
 * ``simulated`` ones come from the stand-in laser: they are of an invented floor.
 */
export interface StaffReading {
  kind: "staff";
  x: number;
  y: number;
  reading: number;
  instrument: number;
  simulated: boolean;
}
/**
 * A long level with its bubble centred: it lies on the floor at (x, y) and ``gap`` is what
 * fits under it at ``distance`` in ``direction``.
 */
export interface ShimReading {
  kind: "shim";
  x: number;
  y: number;
  direction: number;
  distance: number;
  gap: number;
}
/**
 * Self-levelling compound: over the floor that stays, in the shower's recess under what makes
 * the falls, or both.
 */
export interface Pour {
  kind: "pour";
  /**
   * where it is poured
   */
  area: "room" | "shower" | "both";
  /**
   * over the high spot
   */
  cover: number;
  /**
   * yield of one bag
   */
  bag_litres: number;
  /**
   * kept back for what is lost
   */
  waste_share: number;
  bags_a_batch: number;
  /**
   * to mix and pour a batch
   */
  batch_minutes: number;
  working_minutes: number;
}
/**
 * Deck pieces set level between the joists on cleats.
 */
export interface FrameLevel {
  kind: "frame";
}
/**
 * A thicker bed of adhesive under tray or pan.
 */
export interface PackLevel {
  kind: "pack";
}
/**
 * What runs into the floor and what takes it away. ``drain_l_min`` is the drain's own figure
 * from its maker, where it is known.
 */
export interface Water {
  heads: ShowerHead[];
  /**
   * inside, of the waste pipe
   */
  pipe_diameter: number;
  pipe_fall: number;
  drain_l_min: number | null;
}
export interface ShowerHead {
  name: string;
  flow_l_min: number;
}
/**
 * The way of the waste: which drain, where the stack or branch is that takes it, and the bends
 * between them. ``branch`` is the level of the pipe's middle there, from the deck or slab top.
 */
export interface Waste {
  family: DrainFamily | null;
  /**
   * null: not measured
   */
  stack: [number, number] | null;
  /**
   * null: not measured
   */
  branch: number | null;
  /**
   * its bends, from the drain; null: as proposed
   */
  run: [number, number][] | null;
  access_below: boolean;
  riser_cut: "before" | "after";
}
/**
 * What a kind of drain asks of the deck and of the pipe.
 *
 * A plan holds a copy, so that it stays what it was when the table of families changes. Sizes of
 * flange and body are 0 where there is none; a channel's body and flange are as long as it is.
 * Depths are below the rim; ``riser`` is the pipe's top above the deck on which the drain stands,
 * after that was lowered (null: threaded, set to height, or the drain's own text says), or with
 * ``riser_inside`` above the drain's inside bottom, ``trap`` how far the middle of the waste
 * pipe lies below it.
 */
export interface DrainFamily {
  id: string;
  name: string;
  drain: "point" | "linear";
  hole: "round" | "square" | "oblong";
  hole_width: number;
  hole_length: number;
  body_width: number;
  body_length: number;
  body_depth: number;
  flange_width: number;
  flange_length: number;
  flange_depth: number;
  riser: number | null;
  riser_inside: boolean;
  trap: number;
  /**
   * outside diameter of the waste pipe that it takes
   */
  pipe: number;
  /**
   * from a channel's end to its outlet; null: in the middle
   */
  outlet: number | null;
  /**
   * whether it may be turned end for end
   */
  turns: boolean;
  wiggle: number;
  least_height: number;
  most_height: number;
  adjusts: Adjustment[];
  /**
   * timber keeps clear of the hole's middle
   */
  blocking: number;
  with_access: string[];
  without_access: string[];
  check: string;
  document: string;
  from_memory: boolean;
  note: string;
}
/**
 * A part of a drain that is set to the tile: what may lie between flange and grate is ``least``
 * to ``most`` with it. It is screwed, sawn off at its lower end, snapped to a length, or turned
 * over for thin tile.
 */
export interface Adjustment {
  part: string;
  how: "screw" | "saw" | "snap" | "turn";
  least: number;
  most: number;
}
/**
 * A line in or under the floor that was found: the drain and its pipe keep ``clearance`` from
 * it. ``depth`` is how deep it lies below the deck or slab top; null: not measured.
 */
export interface Service {
  name: string;
  kind: "water" | "heating" | "cable" | "gas" | "waste" | "other";
  points: [number, number][];
  clearance: number;
  depth: number | null;
}
/**
 * What is bought, as far as it was typed or ticked.
 */
export interface Order {
  items: Bought[];
}
/**
 * One thing that is bought: what its pack holds or covers by its own text (in what the thing
 * is counted in; null: as usual), what a pack costs, and what was ticked.
 */
export interface Bought {
  item: string;
  pack: number | null;
  price: number | null;
  bought: boolean;
  on_site: boolean;
  /**
   * measured against the plan
   */
  checked: boolean;
}
/**
 * The calendar of the job. Hours are of the day; ``weekdays`` count from Monday, 0.
 */
export interface Days {
  /**
   * the first day; null: not agreed yet
   */
  start: string | null;
  /**
   * when the crew begins, hours of the day
   */
  begin: number;
  /**
   * when it ends
   */
  end: number;
  /**
   * that are worked, Monday 0
   */
  weekdays: number[];
  /**
   * days off and public holidays
   */
  off: string[];
  /**
   * of the room, °C
   */
  temperature: number;
  /**
   * how many times as long cures take; null: by the temperature
   */
  slower: number | null;
  /**
   * tasks that wait for a day
   */
  agreed: Agreed[];
  /**
   * or the fewest days on site, though it ends later
   */
  goal: "done first" | "fewest days";
  membrane: "sheet" | "liquid" | "boards" | "tape" | "lifts" | "cement";
  walls: "floor first" | "walls first";
  tile: "floor first" | "walls first";
  /**
   * what keeps a tray down while its mortar sets
   */
  tray: "weights" | "walls at once";
  /**
   * before the shower's base is set, or after it, from below
   */
  plumbing: "first" | "last";
  own: OwnTask[];
  worked: Worked[];
  first_agreed: FirstAgreed[];
}
/**
 * A task that does not begin before a day: a trade's appointment, or a choice.
 */
export interface Agreed {
  task: string;
  day: string;
}
/**
 * A task of one's own: hours of hands, hours of the clock that are waited after it, the tasks
 * ``after`` which it comes and those that come after it (``before``).
 */
export interface OwnTask {
  id: string;
  name: string;
  who: "crew" | "plumber" | "electrician" | "inspector";
  hours: number;
  wait: number;
  /**
   * nothing behind it goes on until it is signed
   */
  hold: boolean;
  after: string[];
  before: string[];
}
/**
 * What was really done of a task: when it was begun and ended, and who ``signed`` for a hold
 * point, by initials.
 */
export interface Worked {
  task: string;
  began: string;
  ended: string | null;
  signed: string;
}
/**
 * When a task was to begin and end as it was first agreed.
 */
export interface FirstAgreed {
  task: string;
  begins: string;
  ends: string;
}
/**
 * Pins, the level line and the marks that were made.
 */
export interface SettingOut {
  /**
   * between screed pins
   */
  pin_spacing: number;
  /**
   * how high the laser or the line on the walls stands over the existing floor's high spot: what a staff reads there
   */
  staff_on_high_spot: number;
  /**
   * what has been marked, as it was then
   */
  marked: Marked[];
}
/**
 * Something that was marked on the floor or the walls, as it was then: its ``places`` on plan
 * and, where it stands for a height, that ``height``.
 */
export interface Marked {
  kind:
    "level line" | "drain" | "channel" | "centre line" | "entry" | "edge" | "saw line" | "cleat" | "membrane" | "pin";
  name: string;
  places: [number, number][];
  height: number | null;
}
/**
 * The walls. Outlines of room and shower are the finished faces; the studs stand behind them by
 * what is on them. Layers run from the finished face to the studs.
 */
export interface WallBuild {
  /**
   * of walls at which the shower lies; empty: not given
   */
  shower: Layer[];
  /**
   * of all other walls; empty: not given
   */
  rest: Layer[];
  /**
   * the room as it was measured from stud to stud, corner by corner as its outline; null: it was measured at the finished walls
   */
  studs: [number, number][] | null;
  /**
   * how far apart studs stand, middle to middle; null: as is usual
   */
  centres: number | null;
  /**
   * how high the shower's walls are boarded, above the finished floor; null: as high as the membrane goes, or as is usual
   */
  height: number | null;
  /**
   * null: as is usual
   */
  board_length: number | null;
  /**
   * null: as is usual
   */
  board_width: number | null;
  /**
   * what tray and deck are cut to: the studs, or boards on them
   */
  tray_to: "studs" | "boards";
  fixing: "washers" | "screws";
  niches: Niche[];
  /**
   * null: nobody said what it takes
   */
  valve: Valve | null;
  /**
   * studs that were held against a plumb line
   */
  faces: StudFace[];
}
/**
 * A recess between studs of one wall, or a window that is there.
 *
 * ``offset`` is from the wall's first corner to its near side, ``sill`` how high its bottom is
 * above the finished floor. Sizes are those of its opening.
 */
export interface Niche {
  kind: "niche" | "window";
  wall: number;
  offset: number;
  width: number;
  height: number;
  sill: number;
}
/**
 * How thick a wall the valve takes: the finished face lies ``least`` to ``most`` before the
 * place where it is fixed, which is ``forward`` of the studs' faces (below 0 behind).
 */
export interface Valve {
  least: number;
  most: number;
  forward: number;
}
/**
 * A stud as it was found: ``offset`` from the wall's first corner to its middle, and how far
 * its face lies behind a plumb line along the wall at ``foot`` and ``head``.
 */
export interface StudFace {
  wall: number;
  offset: number;
  foot: number;
  head: number;
}
/**
 * How far the floor is sealed, how high the shower's walls are, and what has been laid. By
 * which school it is done the days say.
 */
export interface Membrane1 {
  /**
   * null: all of a wet room, else the shower and what is near it
   */
  extent: ("shower" | "near" | "all") | null;
  /**
   * how high the membrane goes up the shower's walls; 0: the walls are not sealed with it
   */
  walls: number;
  /**
   * through the walls: valve and arm
   */
  pipes: number;
  laid: LaidPiece[];
}
/**
 * A piece that was laid, as it was then: of another length it is another piece.
 */
export interface LaidPiece {
  name: string;
  /**
   * 0: it is counted, not measured
   */
  length: number;
}
/**
 * The layout of the tile. Two joints cross (of hexagons: the middle of one lies) at the middle
 * of the drain, moved by ``along`` in the direction of the tile's length and by ``across`` square
 * to it, to the left of that. The rest of the room is laid from there too.
 */
export interface Tiling {
  pattern: "straight" | "half" | "third" | "hexagon";
  along: number;
  across: number;
  /**
   * side of the sheets that small tile comes on; null: it is single
   */
  sheet: number | null;
  /**
   * tile of the rest of the room; null: it is not laid out
   */
  room: Tile | null;
  /**
   * tile of the shower's walls, its length level but for its turn; null: they are not laid out
   */
  wall: Tile | null;
  walls: "shower" | "all";
  wall_pattern: "straight" | "half" | "third" | "hexagon";
  /**
   * side of the sheets that small wall tile comes on; null: it is single
   */
  wall_sheet: number | null;
  /**
   * how high the walls are tiled, above the finished floor; null: as they are boarded
   */
  wall_height: number | null;
}
/**
 * A cable of one length, which cannot be shortened: its runs lie as far apart as uses it up.
 *
 * ``least`` and ``most`` are how near and how far its runs may be by its own text; laid in a mat
 * with studs they are a whole number of ``stud`` apart. ``start`` is where its cold joint lies,
 * or near there; null: near the first door.
 */
export interface Heating {
  where: "room" | "shower" | "both";
  length: number;
  watts_a_metre: number;
  volts: number;
  least: number;
  most: number;
  /**
   * pitch of the studs of a mat; null: it is laid freely in adhesive
   */
  stud: number | null;
  /**
   * width of a loose mat that the cable is fixed on, whose length is then given; null: the cable is laid by itself
   */
  mat: number | null;
  start: [number, number] | null;
  lies: "under the membrane" | "over the membrane";
}
