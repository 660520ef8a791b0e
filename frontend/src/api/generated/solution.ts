/* Generated from docs/schema by script/format. Do not edit. */

/**
 * All that follows from one plan.
 */
export interface Solution {
  format: "calm-basin-solution";
  version: 1;
  complete: boolean;
  rule_set: string;
  deference: string;
  figures: Figures;
  surface: FloorSurface | null;
  corridor: Corridor | null;
  section: Section | null;
  assumed: Assumed;
  own_values: OwnValue[];
  drawing: Drawing;
  arrangements: Arrangement[];
  findings: Finding[];
  summary: string;
  system: SystemCards | null;
  depth: DepthBar | null;
  ways: Ways | null;
  trays: TrayLayout[];
  panels: PanelLayout | null;
  chains: Chain[];
  cautions: Caution[];
  asked: SpotLevel[];
  structure: StructureResult | null;
  waste: WasteResult | null;
  drain_map: DrainMap | null;
  access: AccessResult | null;
  water: WaterResult | null;
  marks: MarksResult | null;
  order: OrderResult | null;
  days: DaysResult | null;
  walls: WallsResult | null;
  membrane: MembraneResult | null;
  membrane_schools: Option[];
  tile: TileResult | null;
  heating: HeatingResult | null;
  survey: SurveyResult;
  nudge: number;
  plan_texts: {
    [k: string]: string;
  };
  plan_places: {
    /**
     * @minItems 2
     * @maxItems 2
     */
    [k: string]: [PlaceMeasure, PlaceMeasure];
  };
}
/**
 * The key figures.
 */
export interface Figures {
  recess_needed: Figure;
  recess_available: Figure;
  recess_left_to_find: Figure;
  drop_at_drain: Figure;
  fall_steepest: Figure;
  fall_flattest: Figure;
  step_at_entry: Figure;
  room_level: Figure;
  entry_level: Figure;
  drain_level: Figure;
  base_level: Figure;
}
/**
 * A number that the installer acts on. ``value`` is absent where it cannot be worked out;
 * ``under`` says in a few words what it means for the job.
 */
export interface Figure {
  label: string;
  value: number | null;
  unit:
    | "mm"
    | "rise_per_run"
    | "litre"
    | "second"
    | "litre_per_minute"
    | "share"
    | "kilogram"
    | "watt"
    | "watt_per_square_metre"
    | "ampere"
    | "ohm"
    | "square_mm"
    | "count";
  text: string;
  working: Working;
  under: string;
}
/**
 * Why a figure is what it is: the formula in words, its inputs and where it comes from.
 */
export interface Working {
  formula: string;
  inputs: Input[];
  source: string;
  note: string;
}
/**
 * One number that a working starts from: a value of the plan by its JSON pointer (``field``),
 * one of the key figures by its name (``figure``), or, both empty, what follows from elsewhere.
 */
export interface Input {
  name: string;
  text: string;
  field: string;
  figure: string;
}
/**
 * The finished floor of the shower.
 */
export interface FloorSurface {
  planes: Plane[];
  folds: FoldLine[];
  contour_interval: number;
  contour_interval_text: string;
  contours: Contour[];
  spot_levels: SpotLevel[];
  tile_notes: string[];
  side_levels: string[];
  shallowest: number;
  deepest: number;
}
/**
 * One plane of the floor. ``downhill`` is a unit vector; ``label_at`` a place inside it.
 */
export interface Plane {
  name: string;
  polygon: [number, number][];
  heights: number[];
  gradient: number;
  text: string;
  run: number;
  /**
   * @minItems 2
   * @maxItems 2
   */
  downhill: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  label_at: [number, number];
  severity: ("stop" | "caution") | null;
  labelled: boolean;
}
/**
 * A line in which two planes meet, uphill end first. ``angle`` is by how much the floor turns
 * there, degrees; ``tile`` the farthest that a tile may reach across it uncut by the lippage
 * limit, mm square to the fold; ``reach`` how far the chosen tile does (0 where none is chosen);
 * ``cut`` whether it has to be cut along the fold: where it reaches farther, and is larger than
 * what by practice lies uncut.
 */
export interface FoldLine {
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
  gradient: number;
  text: string;
  angle: number;
  angle_text: string;
  valley: boolean;
  tile: number;
  tile_text: string;
  reach: number;
  cut: boolean;
}
/**
 * Lines of one depth below the entry level.
 */
export interface Contour {
  depth: number;
  text: string;
  lines: [number, number][][];
}
/**
 * The finished floor at a place: its height and its depth below the entry level.
 */
export interface SpotLevel {
  kind: "corner" | "rim" | "grid" | "asked";
  x: number;
  y: number;
  height: number | null;
  depth: number | null;
  text: string;
}
/**
 * The corridor between the flattest and the steepest fall that the rule set allows.
 *
 * ``places`` are squares of ``stride`` mm, by their middles, in which the drain may lie.
 */
export interface Corridor {
  planes: PlaneRange[];
  spans: FallSpan[];
  places: [number, number][];
  stride: number;
  fits: boolean;
  source: string;
}
/**
 * What one plane or fold was asked for, what comes out, and what the rule set allows.
 */
export interface PlaneRange {
  name: string;
  zone: "shower" | "rest";
  asked_text: string;
  gradient: number;
  text: string;
  least: number | null;
  least_text: string;
  most: number | null;
  most_text: string;
  severity: ("stop" | "caution") | null;
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
}
/**
 * A range in which every required limit on falls is kept; empty where ``low`` is absent.
 */
export interface FallSpan {
  label: string;
  low: number | null;
  high: number | null;
  now: number;
  text: string;
  inside: boolean;
}
/**
 * A vertical cut through the room, from ``start`` to ``end`` on plan.
 */
export interface Section {
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
  length: number;
  bands: Band[];
  /**
   * @minItems 2
   * @maxItems 2
   */
  shower: [number, number];
  entry: number | null;
  /**
   * @minItems 2
   * @maxItems 2
   */
  drain: [number, number];
  top: number;
  bottom: number;
  ticks: Tick[];
  joists_along: boolean;
}
/**
 * A filled shape of the section; ``outline`` in (distance along the cut, height).
 *
 * ``text`` is its thickness, where it has one that the plan gives.
 */
export interface Band {
  kind: "finish" | "bed" | "tray" | "packing" | "deck" | "refitted" | "slab" | "joist" | "riser" | "drain" | "clash";
  name: string;
  text: string;
  outline: [number, number][];
}
/**
 * A mark of the section's scale board.
 */
export interface Tick {
  height: number;
  text: string;
}
/**
 * What of the plan is only assumed: pointers, of which those ``alone`` are confirmed each by
 * itself, each measure by its name, and how many there are in words.
 */
export interface Assumed {
  paths: string[];
  alone: string[];
  listed: Assumption[];
  count: number;
  text: string;
}
/**
 * A measure or choice that nobody has made: what it is of, and what stands for it.
 */
export interface Assumption {
  name: string;
  text: string;
  fields: string[];
}
/**
 * A limit that the job keeps at a value of its own; ``note`` says in whose place, and why.
 */
export interface OwnValue {
  title: string;
  text: string;
  note: string;
  reason: string;
}
/**
 * Shapes on plan that follow from the document and are not of the floor's surface.
 *
 * ``outlet`` is where the waste leaves a channel, ``outlet_offset`` mm from its start; ``drains``
 * says where the middle of each drain is taped. ``faces`` says from which line of the walls sizes
 * and places are; empty where both lines are one.
 * ``frame`` are the two measures by which a place that is in no plan yet is touched or typed.
 * ``of_shower`` are the fixtures, by number, that go where the shower goes, ``over_shower`` those
 * that are seen over its floor, ``with_height`` those whose height above the floor matters.
 */
export interface Drawing {
  /**
   * @minItems 2
   * @maxItems 2
   */
  frame: [PlaceWay, PlaceWay];
  rims: [number, number][][];
  outlet: [number, number] | null;
  outlet_offset: number | null;
  joists: Joist[];
  entries: [[number, number], [number, number]][];
  room_box: RectangleSize | null;
  shower_box: RectangleSize | null;
  room_sides: string[];
  shower_sides: string[];
  shower_names: string[];
  of_shower: number[];
  over_shower: number[];
  with_height: number[];
  drains: string[];
  faces: string;
}
/**
 * One of two measures by which a place p is found: ``name`` says from what (*from wall 4*),
 * ``of`` which wall or corner that is. It is ``way`` · p + ``offset``, mm, and p goes by ``move``
 * for each mm that it grows.
 */
export interface PlaceWay {
  name: string;
  of: string;
  /**
   * @minItems 2
   * @maxItems 2
   */
  way: [number, number];
  offset: number;
  /**
   * @minItems 2
   * @maxItems 2
   */
  move: [number, number];
}
/**
 * A joist on plan, drawn under the floor.
 */
export interface Joist {
  outline: [number, number][];
}
/**
 * Width and depth of an outline that is a rectangle along the axes, mm and as printed.
 */
export interface RectangleSize {
  width: number;
  depth: number;
  width_text: string;
  depth_text: string;
}
/**
 * A way in which this shower's floor can fall; ``changes`` puts it into the plan.
 */
export interface Arrangement {
  code: "point" | "even" | "two" | "back" | "left" | "right" | "entry" | "middle";
  label: string;
  chosen: boolean;
  changes: Change[];
}
/**
 * Sets the value at a JSON pointer of the plan.
 */
export interface Change {
  path: string;
  value: unknown;
}
/**
 * Something to change or to know, with what was measured against which limit. ``about`` points
 * at the thing of the plan that it is about, whoever asks for it and against whatever limit.
 */
export interface Finding {
  code:
    | "bevel_too_steep"
    | "block_in_entry"
    | "block_on_falls"
    | "block_without_height"
    | "cable_not_in_build_up"
    | "cable_on_timber"
    | "channel_short"
    | "control_out_of_reach"
    | "door_hits_fixture"
    | "door_over_clear_floor"
    | "door_swings_in"
    | "door_too_narrow"
    | "drain_hidden"
    | "drain_near_service"
    | "drain_on_timber"
    | "drain_outside"
    | "drains_touch"
    | "drains_unparted"
    | "edge_too_upright"
    | "engineer_has_to_sign"
    | "entry_too_narrow"
    | "fall_over_most"
    | "fall_under_least"
    | "family_other_drain"
    | "fixture_in_shower"
    | "fixture_over_wall"
    | "fixtures_overlap"
    | "floor_not_free"
    | "floor_out_of_true"
    | "floor_steep_there"
    | "flow_over_capacity"
    | "fold_under_least"
    | "gap_at_block"
    | "grate_out_of_range"
    | "height_out_of_reach"
    | "holes_too_near"
    | "joists_bend"
    | "laid_otherwise"
    | "layer_unusual"
    | "line_in_recess"
    | "membrane_low_at_door"
    | "membrane_school"
    | "niche_on_stud"
    | "no_side_to_transfer"
    | "panel_fall"
    | "panel_short"
    | "panels_need_channel"
    | "pipe_by_line"
    | "pipe_fall_off"
    | "pipe_in_line"
    | "pipe_meets_timber"
    | "pipe_too_long"
    | "ramp_too_high"
    | "ramp_too_steep"
    | "readings_doubtful"
    | "readings_outside"
    | "readings_simulated"
    | "recess_over_available"
    | "rest_too_thin"
    | "shower_too_small"
    | "slab_cut_through"
    | "slab_membrane_cut"
    | "slab_post_tensioned"
    | "slab_to_be_cut"
    | "step_at_door"
    | "step_over_limit"
    | "strip_beside"
    | "studs_cross"
    | "studs_too_far_apart"
    | "system_centres"
    | "system_deck_thin"
    | "system_left"
    | "system_other_floor"
    | "system_over_room"
    | "system_renewed"
    | "system_room_low"
    | "system_trim"
    | "tape_blunder"
    | "tape_open"
    | "tray_cut_too_far"
    | "tray_entry_cut"
    | "tray_fall_turned"
    | "tray_not_convex"
    | "tray_too_small"
    | "tray_too_thin"
    | "trays_apart"
    | "trench_cuts_membrane"
    | "turning_too_small"
    | "turning_too_steep"
    | "valve_depth"
    | "valve_on_stud"
    | "walls_not_level"
    | "walls_off_studs"
    | "waste_cannot_reach"
    | "water_trapped"
    | "way_too_narrow"
    | "wc_beside"
    | "zone_edge_dams"
    | "zone_edge_step"
    | "zone_not_convex";
  about: string;
  severity: "stop" | "caution";
  title: string;
  detail: string;
  measured: number | null;
  measured_text: string;
  limit: number | null;
  limit_text: string;
  unit:
    | "mm"
    | "rise_per_run"
    | "litre"
    | "second"
    | "litre_per_minute"
    | "share"
    | "kilogram"
    | "watt"
    | "watt_per_square_metre"
    | "ampere"
    | "ohm"
    | "square_mm"
    | "count";
  applies_to: string;
  source: string;
  field: string;
  places: Place[];
  cures: Cure[];
}
/**
 * Where a finding is measured.
 */
export interface Place {
  name: string;
  x: number;
  y: number;
  measured: number;
  text: string;
}
/**
 * A change that mends a finding. ``opens`` names the cautions that it brings with it, and the
 * stops that it leaves worse than they were.
 */
export interface Cure {
  text: string;
  changes: Change[];
  opens: string[];
}
/**
 * The system that the plan was filled from, with its instructions for the installer.
 */
export interface SystemCards {
  id: string;
  name: string;
  says: string;
  cards: Instruction[];
}
/**
 * One card: named lines, or lines alone, and whose they are.
 */
export interface Instruction {
  title: string;
  named: Input[];
  lines: string[];
  source: string;
}
/**
 * Where the depth goes: its parts from the room's floor down, which add up to ``total``; the
 * room's own floor takes ``above`` of it, the deck or slab ``below``, of which ``available`` is
 * to be had. ``flush`` solves for one of them where the others are given.
 */
export interface DepthBar {
  segments: Segment[];
  total: number;
  total_text: string;
  above: number;
  above_text: string;
  below: number;
  below_text: string;
  available: number;
  available_text: string;
  flush: Flush[];
}
/**
 * A part of the depth from the room's floor down: a layer, the fall, what makes the falls.
 * ``path`` is where it is changed in the plan, empty where it follows from something else; it
 * could be ``least`` thick, by its kind.
 */
export interface Segment {
  code: "step" | "fall" | "layer" | "former" | "pour" | "packed";
  name: string;
  value: number;
  text: string;
  path: string;
  kind: "length" | "fall";
  least: number | null;
  spare_text: string;
}
/**
 * The flush condition solved for one thing: what is ``given``, and what follows, in mm or as a
 * fall (``value``; None where nothing fits).
 */
export interface Flush {
  code: "layers" | "former" | "fall" | "room";
  given: string;
  solved: string;
  value: number | null;
  text: string;
}
/**
 * Every way to the depth side by side, and the cheapest next millimetres in their order.
 */
export interface Ways {
  listed: Way[];
  cheapest: NextStep[];
}
/**
 * One way to get the depth, made on the plan: what it gives, the recess that is then needed
 * and how much of it is over or short, the steps, what it takes, costs and forbids, all that is
 * then found and what of it is new (``opens``). ``engineer`` is shown and never advised.
 */
export interface Way {
  code: string;
  title: string;
  gives: number | null;
  gives_text: string;
  recess: number | null;
  recess_text: string;
  left: number | null;
  left_text: string;
  enough: boolean | null;
  step_text: string;
  door_text: string;
  material: string;
  days: string;
  costs: string;
  forbids: string;
  source: string;
  findings: string[];
  opens: string[];
  engineer: boolean;
  changes: Change[];
}
/**
 * The cheapest change for the next millimetres: what it gives, and why it is cheap.
 */
export interface NextStep {
  text: string;
  gives: number;
  gives_text: string;
  why: string;
  changes: Change[];
}
/**
 * A stock tray laid out from the riser. Places are on the tray, from its own drain: x to the
 * right as seen by whoever comes in, y to the back; from the underside left and right change
 * places. ``outline`` is the tray as delivered with its extension, ``kept`` what is left of it,
 * ``joint`` the two ends of the line where the extension begins.
 */
export interface TrayLayout {
  title: string;
  verdict: string;
  outline: [number, number][];
  kept: [number, number][];
  joint: [number, number][];
  rim: [number, number][];
  sides: TrayMark[];
  said: string[];
}
/**
 * A side of the shower on the tray: what is cut or missing there (``text``), the measures from
 * the riser to the side and from the tray's own drain to its edge, and what the cut loses.
 */
export interface TrayMark {
  name: string;
  state: "cut" | "missing" | "as delivered";
  text: string;
  riser_text: string;
  reach_text: string;
  loss: number;
  loss_text: string;
  note: string;
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
  entry: boolean;
}
/**
 * All panels of a floor and how they are cut.
 */
export interface PanelLayout {
  count: number;
  verdict: string;
  sides: PanelCut[];
  source: string;
}
/**
 * Panels of one side of a channel: how many, what is cut off their thick ends, which has the
 * notch for the outlet. Places are seen from the drain up the slope: x to the right, y from the
 * drain; ``panels`` are two corners each as delivered, ``kept`` is the side, ``notch`` two corners
 * or none.
 */
export interface PanelCut {
  name: string;
  count: number;
  rows: number;
  text: string;
  said: string[];
  kept: [number, number][];
  panels: [[number, number], [number, number]][];
  notch: [number, number][];
  run_text: string;
  last_text: string;
  width_text: string;
}
/**
 * The chain of heights from the deck to the grate, or of lengths from stud to cover.
 */
export interface Chain {
  title: string;
  parts: Adjusted[];
  said: string[];
  source: string;
}
/**
 * One part of a chain of heights or lengths: its own size, or how far it can be set.
 */
export interface Adjusted {
  name: string;
  text: string;
  do: string;
}
/**
 * A warning that belongs where the work is planned.
 */
export interface Caution {
  code: string;
  text: string;
}
/**
 * What carries the floor, what the drain takes of it, and the sheet to cut the deck by;
 * ``unsigned`` says for which joists an engineer has to sign yet.
 */
export interface StructureResult {
  timbers: TimberMark[];
  across: [number, number] | null;
  bodies: BodyMark[];
  services: ServiceMark[];
  figures: Figure[];
  notes: string[];
  unsigned: string;
  sheet: CutSheet | null;
}
/**
 * One timber on plan; ``number`` is a joist's for people, ``index`` how the plan counts it.
 *
 * Of a joist ``regular`` is where its middle stands where nothing moved it, along ``across`` of
 * the whole.
 */
export interface TimberMark {
  name: string;
  kind: "joist" | "trimmer" | "blocking" | "girder" | "wall";
  outline: [number, number][];
  number: number | null;
  index: number | null;
  regular: number | null;
}
/**
 * One part of a drain on plan; ``meets`` names what it lies on.
 */
export interface BodyMark {
  part: "hole" | "body" | "flange" | "channel";
  outline: [number, number][];
  meets: string[];
}
/**
 * A line that was found, and the strip that is kept clear of it.
 */
export interface ServiceMark {
  name: string;
  kind: string;
  points: [number, number][];
  strip: [number, number][];
}
/**
 * What is sawn out of the deck and what goes back in; where nothing is recessed a channel's
 * ``slot`` alone, and no cleats.
 */
export interface CutSheet {
  blade: Figure;
  set_down: Figure | null;
  cleats: Figure | null;
  saw_lines: SawLine[];
  pieces: Piece[];
  battens: Batten[];
  hole: string;
  slot: string;
  steps: string[];
}
/**
 * One cut of a saw: its ends, each with its distance from two walls.
 */
export interface SawLine {
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
  length_text: string;
  start_text: string;
  end_text: string;
}
/**
 * A piece of deck that goes back between the joists; ``loose`` until the waste is tested.
 */
export interface Piece {
  outline: [number, number][];
  text: string;
  loose: boolean;
}
/**
 * A cleat along a joist or under a plate, timber under the deck's edge or beside the hole.
 */
export interface Batten {
  kind: "cleat" | "blocking" | "plate cleat" | "edge" | "added joist";
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
  text: string;
}
/**
 * Where the waste goes; ``missing`` says what is not measured and so not looked at.
 */
export interface WasteResult {
  run: RunMark | null;
  figures: Figure[];
  missing: string[];
  reminders: string[];
  riser: RiserCard | null;
  trench: Figure[];
  verdict: string;
}
/**
 * The run on plan with where it passes timbers; ``proposed`` where the plan does not lay it.
 */
export interface RunMark {
  line: [number, number][];
  proposed: boolean;
  fits: boolean;
  passed: PassedMark[];
  profile: Profile;
}
/**
 * One timber that the run passes: where, the pipe's level there, and what is drilled.
 */
export interface PassedMark {
  name: string;
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
  distance: number;
  level: number;
  level_text: string;
  hole_text: string;
  limit_text: string;
  fits: boolean;
}
/**
 * The run drawn out straight: levels of the pipe's middle, the timbers it passes, deck and
 * ceiling, and the branch that it meets; heights in mm from the deck or slab top.
 */
export interface Profile {
  length: number;
  pipe: number;
  levels: [number, number][];
  timbers: TimberCut[];
  deck: number;
  ceiling: number | null;
  branch: number | null;
  top: number;
  bottom: number;
}
/**
 * A timber as the run's profile cuts it: from ``start`` to ``end`` along the run, and the band
 * of levels in which the pipe's middle may pass it, where there is one.
 */
export interface TimberCut {
  name: string;
  start: number;
  end: number;
  top: number;
  bottom: number;
  low: number | null;
  high: number | null;
}
/**
 * What the plumber on the floor is told: lines to read out, the order of work, the check.
 */
export interface RiserCard {
  title: string;
  said: string[];
  order: string[];
  check: string;
  source: string;
}
/**
 * Where the drain can go: outlets ``x``, ``y`` on plan with what each comes to.
 *
 * ``reason`` points into ``reasons``; ``line`` into ``lines`` and ``outlet`` tells how far along
 * it the outlet lies, where the drain is a channel. Cells are ``stride`` mm square, along
 * ``along``. ``rows`` and ``columns`` are those of a point drain's or a channel's places.
 */
export interface DrainMap {
  stride: number;
  /**
   * @minItems 2
   * @maxItems 2
   */
  along: [number, number];
  x: number[];
  y: number[];
  row: number[];
  column: number[];
  verdict: ("open" | "blocked" | "falls" | "deep" | "waste" | "edge")[];
  reason: number[];
  reasons: string[];
  lines: ChannelLine[];
  line: number[];
  outlet: number[];
  here: number | null;
  summary: string;
  best: Offered | null;
  nearest: Offered | null;
}
/**
 * A channel's place: its two ends.
 */
export interface ChannelLine {
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
}
/**
 * A place that is offered: in words, and what it changes.
 */
export interface Offered {
  text: string;
  place: number;
  changes: Change[];
}
/**
 * What whoever uses the room needs: spaces, the way in, edges, what the rules ask of turning in
 * words, and what else is measured.
 */
export interface AccessResult {
  spaces: Space[];
  ways: WayIn[];
  thresholds: ThresholdSeen[];
  asked: string;
  unmeasured: string[];
  figures: Figure[];
}
/**
 * A space as it is drawn: a circle ``across`` round (x, y), or an ``outline``, mm.
 *
 * ``enough`` is None where nothing is asked; ``asked`` says whose it is. ``state`` says in words
 * what is wrong with it, and is empty where nothing is.
 */
export interface Space {
  name: string;
  x: number;
  y: number;
  across: number;
  outline: [number, number][];
  text: string;
  asked: string;
  state: string;
  enough: boolean | null;
}
/**
 * The way from a door to the shower: its line, how wide it is, and between which two places it
 * is narrowest.
 */
export interface WayIn {
  line: [number, number][];
  narrowest: [number, number][];
  text: string;
  enough: boolean;
}
/**
 * An edge on the way in, drawn from the side: mm along and up from before it; ``asked`` says
 * what the rules allow.
 */
export interface ThresholdSeen {
  name: string;
  text: string;
  asked: string;
  profile: [number, number][];
  enough: boolean;
}
/**
 * What the water does on the planned floor.
 */
export interface WaterResult {
  puddles: Puddle[];
  level_area: number;
  level_text: string;
  runs: Runoff[];
  gatherings: Gathering[];
  crosses: boolean;
  crossing_text: string;
  drained: Figure;
  holds: Figure;
  overflow: Figure;
  flow: Figure;
  capacities: Capacity[];
  verdict: string;
  clear: boolean;
}
/**
 * Water that stays: where it is deepest, its depth, area and volume.
 */
export interface Puddle {
  x: number;
  y: number;
  depth: number;
  area: number;
  litres: number;
  text: string;
}
/**
 * The way of one drop, down to where it ends.
 */
export interface Runoff {
  points: [number, number][];
  ends: "drain" | "out" | "stands";
}
/**
 * A place at a drain's rim and the share of all water that comes in there.
 */
export interface Gathering {
  x: number;
  y: number;
  share: number;
  text: string;
}
/**
 * What one part of the way out can take, against what the heads give.
 */
export interface Capacity {
  name: string;
  carries: number;
  text: string;
  enough: boolean;
  working: Working;
}
/**
 * All that is marked, in the order of work, and what was marked and holds no more.
 */
export interface MarksResult {
  groups: MarkGroup[];
  stale: StaleMark[];
  left: number;
  total: number;
  measured_from: string;
  pins: PinsResult;
}
/**
 * Marks that are made together, in the order of work.
 */
export interface MarkGroup {
  title: string;
  kind:
    "level line" | "drain" | "channel" | "centre line" | "entry" | "edge" | "saw line" | "cleat" | "membrane" | "pin";
  said: string;
  marks: Mark[];
}
/**
 * One thing that is marked: a place, a line by its ends, or a level.
 *
 * ``marked`` is what is noted in the plan once it is done, ``noted`` what the plan has of it; null
 * while it is still to be marked. ``text`` says more of it, ``cut_text`` what a pin is cut to;
 * ``level`` is where its top lies over the old floor's high spot, mm, and ``staff_text`` what the
 * staff reads there.
 */
export interface Mark {
  name: string;
  kind:
    "level line" | "drain" | "channel" | "centre line" | "entry" | "edge" | "saw line" | "cleat" | "membrane" | "pin";
  places: MarkPlace[];
  text: string;
  cut_text: string;
  level: number | null;
  staff_text: string;
  marked: Marked;
  noted: Marked | null;
}
/**
 * One place of a mark: from two walls, and a measure that shows a slip; ``check_to`` is the
 * place it is taken to.
 */
export interface MarkPlace {
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
  from_text: string;
  check_text: string;
  check_to: [number, number] | null;
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
 * What was marked, as it is ``noted`` in the plan, and holds no more.
 */
export interface StaleMark {
  noted: Marked;
  from_text: string;
  said: string;
}
/**
 * Screed pins in laying order. ``worst`` is the largest change that rounding made, mm.
 */
export interface PinsResult {
  pins: Pin[];
  unit_text: string;
  worst: number;
  cost: string;
  stands_on: string;
  lines: CheckLine[];
  none_because: string;
}
/**
 * A screed pin: ``height`` from the base, cut to ``cut``; ``top`` is its level; ``on`` what it
 * stands on.
 */
export interface Pin {
  number: number;
  kind: "rim" | "fold" | "edge" | "field";
  x: number;
  y: number;
  height: number;
  cut: number;
  text: string;
  top: number;
  on: string;
}
/**
 * A line from the rim outwards for a level and a tape: distances and rises over the rim.
 */
export interface CheckLine {
  name: string;
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
  distances: string[];
  rises: string[];
}
/**
 * All that is bought for the job, line by line, with the cut lists and what is checked.
 */
export interface OrderResult {
  lines: OrderLine[];
  cuts: CutList[];
  kit: KitCheck[];
  tools: ToolList[];
  held: string[];
  total_text: string;
  said: string[];
}
/**
 * One thing that is bought: how much the plan needs, with waste, in whole packs.
 *
 * ``item`` names it in the plan's order; ``pack`` is what a pack holds in what the thing is
 * counted in, ``pack_shown`` the same in ``pack_unit``, as people type it, of which one is
 * ``pack_one``; ``typed`` whether somebody said so. ``held`` is what is kept back of it, ``batch``
 * how much is mixed at a time, ``cost`` the packs at the typed price.
 */
export interface OrderLine {
  item: string;
  name: string;
  where: string;
  unit: "each" | "m" | "m2" | "litre" | "volume" | "bag";
  needed: number;
  needed_text: string;
  waste_text: string;
  pack: number;
  pack_shown: string;
  pack_unit: string;
  pack_one: number;
  pack_text: string;
  packs: number;
  buy_text: string;
  why: Working;
  typed: boolean;
  water: string;
  batch: string;
  held: string[];
  price: number | null;
  cost: number | null;
  cost_text: string;
  bought: boolean;
  on_site: boolean;
  checked: boolean;
}
/**
 * How the pieces of one thing are cut from the lengths or sheets ``bought``; none can do with
 * fewer than ``least``, and where that is what is bought it is ``proven`` the best.
 */
export interface CutList {
  item: string;
  name: string;
  stock_text: string;
  bars: CutBar[];
  said: string;
  proven: boolean;
  bought: number;
  least: number;
}
/**
 * A length that is bought, or a strip of a sheet, counted from 1, and how wide it is; what is
 * cut from it, mm, longest first, and what is left.
 */
export interface CutBar {
  sheet: number;
  width_text: string;
  pieces: number[];
  pieces_text: string;
  left_text: string;
}
/**
 * A part that is measured before anything is cut, and the sizes that the plan counts on.
 */
export interface KitCheck {
  item: string;
  name: string;
  sizes: string[];
}
/**
 * Things that nobody counts, under their heading.
 */
export interface ToolList {
  title: string;
  listed: string[];
  source: string;
}
/**
 * The days of the job: its tasks in the order of the work, the calendar, when it is done, at
 * the usual pace and between quick and slow, on how many ``visits``. ``proven`` where no order is
 * done sooner, ``first_text`` how its end lies to what was first agreed. ``warned`` is what went
 * on past a hold point that nobody signed, and what does not hang together; minutes count from
 * midnight before ``first_day``, "" where none is agreed.
 */
export interface DaysResult {
  tasks: TaskSlot[];
  days: WorkDay[];
  begin: number;
  end: number;
  finish: number;
  finish_text: string;
  range_text: string;
  visits: number;
  visits_text: string;
  warmth_text: string;
  proven: boolean;
  slower: number;
  said: string[];
  first_text: string;
  warned: string[];
  first_day: string;
  none_because: string;
}
/**
 * A task with its hands and the wait after it: minutes from midnight before the first day, as
 * moments of the site (``begins``, ``ends``; "" without a first day), and in words.
 *
 * ``spare`` is by how many minutes it may end later with nothing behind it moved, ``critical``
 * whether that is none; ``meanwhile`` names what can be done in its wait. ``agreed`` is the day
 * before which it does not begin, and ``agreed_text`` what is to be known of that. ``state`` tells
 * whether it was done, is being done or is still to come; ``signed`` by whom a hold point was,
 * ``first_text`` how it lies to what was first agreed, and ``own`` that it is of one's own.
 */
export interface TaskSlot {
  task: string;
  name: string;
  who: string;
  start: number;
  end: number;
  free: number;
  begins: string;
  ends: string;
  day_text: string;
  begin_text: string;
  end_text: string;
  hands_text: string;
  wait_text: string;
  hold: boolean;
  agreed: string | null;
  agreed_text: string;
  spare: number;
  spare_text: string;
  critical: boolean;
  meanwhile: string[];
  after: string[];
  state: "done" | "begun" | "to come";
  signed: string;
  first_text: string;
  own: boolean;
  why: Working;
}
/**
 * A day of the calendar from the first to the last: its ``number`` from 0, whether it is
 * worked, and which tasks have hands on it.
 */
export interface WorkDay {
  number: number;
  text: string;
  date: string;
  worked: boolean;
  tasks: string[];
}
/**
 * Where studs and finished walls are, and how the walls are framed and boarded.
 */
export interface WallsResult {
  said: string;
  boards: string;
  given: boolean;
  measured: string;
  figures: Figure[];
  lines: WallLine[];
  box: [WallSize, WallSize] | null;
  studs: [number, number][];
  pocket: [number, number][];
  views: WallView[];
  built: BuiltUp[];
  chain: Input[];
  centres: number;
  centres_text: string;
  boarded: number;
  boarded_text: string;
  /**
   * @minItems 2
   * @maxItems 2
   */
  board: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  board_texts: [string, string];
  /**
   * @minItems 2
   * @maxItems 2
   */
  layers_texts: [string, string];
  notes: string[];
}
/**
 * One wall: between finished walls, between studs, and how far the studs are behind.
 */
export interface WallLine {
  number: number;
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
  finished_text: string;
  studs_text: string;
  depth_text: string;
  at_shower: boolean;
}
/**
 * A size between studs, mm.
 */
export interface WallSize {
  size: number;
  text: string;
}
/**
 * A wall from inside, with all that is framed and boarded in it.
 */
export interface WallView {
  wall: number;
  name: string;
  said: string;
  length: number;
  height: number;
  low: number;
  studs: WallBox[];
  added: WallBox[];
  backing: WallBox[];
  hung: WallBox[];
  niches: WallBox[];
  boards: WallBox[];
  fasteners: [number, number][];
  cuts: Input[];
  fixings: string[];
  furring: Input[];
}
/**
 * A rectangle on a wall, from the left end of its studs and up from the finished floor, mm;
 * ``text`` is what is said of it, empty where nothing is.
 */
export interface WallBox {
  x: number;
  y: number;
  width: number;
  height: number;
  text: string;
}
/**
 * A bench or half wall: its sizes for the builder.
 */
export interface BuiltUp {
  name: string;
  rows: Input[];
  note: string;
}
/**
 * How far the membrane goes, and every piece of it.
 */
export interface MembraneResult {
  said: string;
  left: number;
  figures: Figure[];
  pieces: MembranePiece[];
  outline: [number, number][];
  walls: MembraneWall[];
  band_width: number;
  notes: string[];
}
/**
 * One piece in the order of laying: its name, what is cut (empty where it is only counted) and
 * where it lies; ``length`` is what a tick holds for, mm.
 */
export interface MembranePiece {
  kind:
    | "band"
    | "upright"
    | "niche"
    | "bench"
    | "joint"
    | "bead"
    | "inside corner"
    | "outside corner"
    | "collar"
    | "patch"
    | "sheet";
  name: string;
  cut_text: string;
  length: number;
  places: [number, number][];
  laid: boolean;
}
/**
 * A wall at the shower from inside: what of it is sealed, niches, where pipes come through, and
 * which fasteners are covered; x from the left end of its studs, y up from the floor, mm.
 */
export interface MembraneWall {
  name: string;
  length: number;
  sealed: WallBox[];
  niches: WallBox[];
  pipes: [number, number][];
  patches: [number, number][];
  joints: [[number, number], [number, number]][];
}
/**
 * One of several things that a field of the plan may name.
 */
export interface Option {
  name: string;
  text: string;
}
/**
 * The tile of the floor; ``none_because`` says why it is not laid out.
 */
export interface TileResult {
  none_because: string;
  field: string;
  narrowest_text: string;
  floors: TiledFloor[];
  /**
   * @minItems 2
   * @maxItems 2
   */
  origin: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  counted_from: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  row: [number, number];
  walls: TiledWalls | null;
  on_joints: Change[];
  on_tile: Change[];
  meets: Input[];
  notes: string[];
}
/**
 * A floor with its tile: counts of tiles, and the pieces as they are drawn.
 *
 * ``used`` are the tiles that it takes, offcuts used again; ``buy`` adds what breaks.
 */
export interface TiledFloor {
  name: string;
  tile_text: string;
  whole: number;
  cut: number;
  slivers: number;
  reused: number;
  used: number;
  buy: number;
  full: number;
  area: number;
  tiled: number;
  area_text: string;
  buy_text: string;
  made_text: string;
  working: Working;
  sizes: CutPiece[];
  sizes_left: number;
  drawn_whole: [number, number][][];
  drawn_cut: [number, number][][];
  drawn_slivers: [number, number][][];
}
/**
 * Pieces of one size: how many, and their size; ``sliver`` where they are too thin.
 */
export interface CutPiece {
  count: number;
  text: string;
  sliver: boolean;
}
/**
 * The tile of the shower's walls, from left to right; ``none_because`` says why it is not laid
 * out.
 */
export interface TiledWalls {
  none_because: string;
  tiled: TiledFloor | null;
  said: string;
  narrowest: string;
  height: number;
  height_text: string;
  views: TiledWall[];
}
/**
 * A wall with its tile, from inside: x from the left end of its finished face, y up from the
 * floor, mm; ``said`` is how it begins along it.
 */
export interface TiledWall {
  name: string;
  said: string;
  length: number;
  height: number;
  drawn_whole: [number, number][][];
  drawn_cut: [number, number][][];
  drawn_slivers: [number, number][][];
  niches: [number, number][][];
}
/**
 * The cable on the floor; ``none_because`` says why it is not laid, ``field`` where that is
 * cured.
 */
export interface HeatingResult {
  none_because: string;
  field: string;
  state: "fits" | "too long" | "too short" | "none";
  sentence: string;
  detail: string;
  cures: Cure[];
  length_text: string;
  figures: Figure[];
  route: [number, number][];
  mats: [number, number][][];
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
  sensor: [number, number][];
  kept_free: [number, number][][];
  notes: string[];
}
/**
 * What follows from what was measured of the room. ``walk`` is a round of places to read,
 * ``readings`` tells where those of the plan were taken, in its order, where they are so few that
 * they are listed.
 */
export interface SurveyResult {
  tape: TapeResult | null;
  floor: FloorResult | null;
  bases: Option[];
  walk: [number, number][];
  readings: ReadingPlace[];
}
/**
 * The outline adjusted from tapes; ``changes`` puts it into the plan, and is empty where the
 * tapes leave the shape open.
 */
export interface TapeResult {
  outline: [number, number][];
  misfits: TapeMisfit[];
  corners: CornerResult[];
  closes: number;
  closes_text: string;
  changes: Change[];
}
/**
 * One tape measure against the outline that fits them all best.
 */
export interface TapeMisfit {
  name: string;
  measured: number;
  adjusted: number;
  misfit: number;
  text: string;
  suspect: boolean;
}
/**
 * A corner of the taped room: ``gap`` is how far its shorter wall ends from square, mm.
 */
export interface CornerResult {
  number: number;
  angle_text: string;
  gap: number;
  text: string;
}
/**
 * The floor that is there, as it was read.
 */
export interface FloorResult {
  remarks: string[];
  soundings: Sounding[];
  /**
   * @minItems 2
   * @maxItems 2
   */
  high: [number, number];
  /**
   * @minItems 2
   * @maxItems 2
   */
  low: [number, number];
  range: Figure;
  under_shower: Figure;
  tilt: Figure;
  tilt_downhill: number;
  crown: Figure;
  flatness: Figure;
  edge: EdgeResult;
  edge_length: number;
  grid: FloorGrid;
  base_name: string;
  verdict_text: string;
  true_enough: boolean;
  tray_falls: TrayFall[];
  truings: Truing[];
  cleats: JoistMarks[];
}
/**
 * A place whose floor was read, and its depth below the high spot.
 */
export interface Sounding {
  x: number;
  y: number;
  depth: number;
  text: string;
}
/**
 * Where a straightedge gapes most.
 */
export interface EdgeResult {
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
  /**
   * @minItems 2
   * @maxItems 2
   */
  at: [number, number];
  text: string;
}
/**
 * Depths below the high spot on a grid of cells, row by row from the lower left; null outside
 * the room. ``read`` tells the cells that lie among the readings.
 */
export interface FloorGrid {
  left: number;
  bottom: number;
  width: number;
  height: number;
  columns: number;
  rows: number;
  depths: (number | null)[];
  read: boolean[];
}
/**
 * What the floor's tilt leaves of a plane's fall; below 0 it has turned round.
 */
export interface TrayFall {
  plane: string;
  built_in_text: string;
  left: number;
  text: string;
  turned: boolean;
}
/**
 * One way to make the floor true, with its figures.
 */
export interface Truing {
  code: "pour" | "frame" | "pack";
  title: string;
  figures: Input[];
  advice: string[];
  chosen: boolean;
  changes: Change[];
}
export interface JoistMarks {
  joist: number;
  marks: CleatMark[];
}
/**
 * How far below a joist's top its cleats are set at a place.
 */
export interface CleatMark {
  x: number;
  y: number;
  mark: number;
  text: string;
}
/**
 * Where a reading was taken, as a tape finds it: where a level lies on the floor, and its other
 * end, under which its gap was read; empty of other readings.
 */
export interface ReadingPlace {
  at: string;
  end: string;
}
/**
 * The same of a place of the plan, as it is printed.
 */
export interface PlaceMeasure {
  name: string;
  of: string;
  /**
   * @minItems 2
   * @maxItems 2
   */
  way: [number, number];
  offset: number;
  /**
   * @minItems 2
   * @maxItems 2
   */
  move: [number, number];
  text: string;
}
