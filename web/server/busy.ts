/** More comes at once than there is room for: whoever asked is told, and when to come again. */
export class Busy extends Error {}
