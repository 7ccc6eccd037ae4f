// One key as each keyboard makes it: signs and figures may need Shift, or AltGr, which some systems tell as Control
// and Alt.
const isSign = (key) => key.length === 1 && !/[a-z]/i.test(key);

export const strokes = (key) => (isSign(key) ? [key, `Shift+${key}`, `Control+Alt+${key}`] : [key]);
