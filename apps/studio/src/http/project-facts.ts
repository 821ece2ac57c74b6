/** Rates at which a project's clips run, frames a second. */
export const PROJECT_RATES = [24, 25, 30, 50, 60, 120] as const;
/** Days for which a project that was removed can be brought back. */
export const KEPT_DAYS = 30;
/** The cookie in which a browser keeps which project it had open last. */
export const LAST_PROJECT = 'lantern-project';
