/** A text as a sentence or a label begins. */
export const begun = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);
