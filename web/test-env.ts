/** What server code finds as its settings under unit test. */
export const env: Record<string, string | undefined> = process.env;
export const building = false;
