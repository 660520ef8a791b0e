/** The outlines of a drawing, layer by layer. */
export interface Outlines {
  unit: string | null;
  said: string;
  layers: {
    name: string;
    outlines: { points: [number, number][]; text: string }[];
    told: string[];
  }[];
}
