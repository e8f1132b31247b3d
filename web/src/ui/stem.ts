/** The name of a clip without what its file ends in. */
export const stemOf = (name: string) => name.replace(/\.[^.]+$/, "");
