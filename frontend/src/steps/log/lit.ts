/** What a photo's mark and its entry light each other up by. */
export const photoLit = (number: number) => `photo ${number}`;
