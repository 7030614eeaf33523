// Pictures laid over a shot in the preview: their outlines come from the core (core/overlay.py), filled as the export does.

/** @typedef {import("../answers.d.ts").LaidJson} Laid */

/** @type {Map<string, Path2D>} */
const paths = new Map();

/** @param {CanvasRenderingContext2D} context @param {Laid[]} laid @param {number} share of the shot that has passed */
export function drawLaid(context, laid, share) {
  const { width, height } = context.canvas;
  for (const each of laid) {
    if (share < each.begins || share > each.ends) continue;
    const path = paths.get(each.outline) ?? new Path2D(each.outline);
    paths.set(each.outline, path);
    const unit = each.size * (each.whole_frame ? width : Math.min(width, height));
    context.save();
    context.translate(each.x * width, each.y * height);
    context.rotate((each.turn * Math.PI) / 180);
    context.scale(unit, unit);
    context.globalAlpha = each.opacity;
    context.fillStyle = each.colour;
    context.fill(path, "evenodd");
    context.restore();
  }
}
