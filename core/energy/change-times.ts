/** Minutes that an agreed change takes where no sheet says. Common practice, no source. */
export const CHANGE_MINUTES = { setting: 1, shed: 25, keyed: 15, plug: 8, second: 70, idle: 15, reducer: 20, shorter: 1 };
