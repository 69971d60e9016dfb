/** How long until a plan is asked for again, ms: while a better one is looked for it comes at any moment. */
export const until = (provisional?: boolean) => (provisional ? 400 : 60_000);

/** What is said meanwhile. */
export const seeking = 'This order was found at once; a better one is being looked for.';
