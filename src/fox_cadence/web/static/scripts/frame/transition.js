// One shot becoming the next in the preview: as core/transition.py and media/transitions.py have it for the export.

const SOFT_EDGE = 0.06;

/**
 * Draw the next shot over the one before, which stands on the canvas already.
 *
 * @param {CanvasRenderingContext2D} context @param {HTMLCanvasElement} next @param {number} share of its time
 * @param {string} kind @param {string} colour of a dip
 */
export function drawNext(context, next, share, kind, colour) {
  const { width, height } = context.canvas;
  if (kind === "dip") {
    if (share > 0.5) context.drawImage(next, 0, 0);
    context.globalAlpha = share > 0.5 ? 2 - 2 * share : 2 * share;
    context.fillStyle = colour;
    context.fillRect(0, 0, width, height);
    context.globalAlpha = 1;
  } else if (kind === "push") {
    const by = share * height;
    context.drawImage(context.canvas, 0, -by);
    context.drawImage(next, 0, height - by);
  } else if (kind === "slide") {
    context.drawImage(next, width - share * width, 0);
  } else if (kind === "wipe" || kind === "part") {
    masked(next, share, kind);
    context.drawImage(next, 0, 0);
  } else {
    context.globalAlpha = share;
    context.drawImage(next, 0, 0);
    context.globalAlpha = 1;
  }
}

/** Leave of a picture what is seen of it. @param {HTMLCanvasElement} next @param {number} share @param {string} kind */
function masked(next, share, kind) {
  const context = next.getContext("2d");
  if (!context) return;
  const [wipes, reach] = kind === "wipe" ? [true, 1] : [false, 0.5];
  const passed = share * (reach + SOFT_EDGE);
  const edge = context.createLinearGradient(0, 0, next.width, 0);
  const stop = (/** @type {number} */ place, /** @type {number} */ seen) => {
    if (place >= 0 && place <= 1)
      edge.addColorStop(place, `rgba(0, 0, 0, ${Math.min(1, Math.max(0, seen))})`);
  };
  const seenAt = (/** @type {number} */ place) =>
    (passed - (wipes ? place : Math.abs(place - 0.5))) / SOFT_EDGE;
  const corners = wipes
    ? [passed - SOFT_EDGE, passed]
    : [0.5 - passed, 0.5 - passed + SOFT_EDGE, 0.5 + passed - SOFT_EDGE, 0.5 + passed];
  for (const place of [
    0,
    ...corners.filter((each) => each > 0 && each < 1).sort((a, b) => a - b),
    ...(wipes ? [] : [0.5]),
    1,
  ])
    stop(place, seenAt(place));
  context.globalCompositeOperation = "destination-in";
  context.fillStyle = edge;
  context.fillRect(0, 0, next.width, next.height);
  context.globalCompositeOperation = "source-over";
}
