// Which part of a clip's picture is seen at a moment: as core/framing.py has it for the export.

/** @typedef {import("../answers.d.ts").FramingJson} Framing */
/** @typedef {{left: number, top: number, width: number, height: number}} View shares of the turned picture */

/**
 * @param {Framing} framing @param {[number, number]} picture width and height, upright
 * @param {[number, number]} frame @param {number} share of the shot that has passed @returns {View}
 */
export function viewOf(framing, picture, frame, share) {
  const [wide, high] = framing.turns % 2 ? [picture[1], picture[0]] : picture;
  const ratio = frame[0] / frame[1] / (wide / high);
  const bound = framing.fit === "fill" ? Math.min : Math.max;
  const [width, height] = [bound(1, ratio), bound(1, 1 / ratio)];
  const at = framing.begins + share * (framing.ends - framing.begins);
  const passed = framing.soft ? at * at * (3 - 2 * at) : at;
  let [x, y] = turned(framing, framing.x, framing.y);
  if (framing.movement === "to") {
    const end = turned(framing, framing.to_x, framing.to_y);
    const first = around([x, y], width / framing.zoom, height / framing.zoom);
    return towards(first, around(end, width / framing.to_zoom, height / framing.to_zoom), passed);
  }
  let nearer = framing.zoom;
  if (framing.movement === "in") nearer *= 1 + framing.amount * passed;
  if (framing.movement === "out") nearer *= 1 + framing.amount * (1 - passed);
  if (framing.movement === "across" || framing.movement === "back") {
    nearer *= 1 + framing.amount;
    const way = framing.movement === "across" ? 1 : -1;
    x += (way * framing.amount * (passed - 0.5) * width) / nearer;
  }
  return around([x, y], width / nearer, height / nearer);
}

/** @param {[number, number]} centre @param {number} width @param {number} height @returns {View} */
const around = ([x, y], width, height) => ({
  left: placed(x, width),
  top: placed(y, height),
  width,
  height,
});

/** On the straight way from one view to another. @param {View} one @param {View} other @param {number} share @returns {View} */
const towards = (one, other, share) => ({
  left: one.left + (other.left - one.left) * share,
  top: one.top + (other.top - one.top) * share,
  width: one.width + (other.width - one.width) * share,
  height: one.height + (other.height - one.height) * share,
});

/** @param {Framing} framing @param {number} x @param {number} y @returns {[number, number]} */
function turned(framing, x, y) {
  if (framing.mirror) x = 1 - x;
  for (let turn = 0; turn < framing.turns; turn++) [x, y] = [1 - y, x];
  return [x, y];
}

/** @param {number} centre @param {number} size */
const placed = (centre, size) =>
  size >= 1 ? (1 - size) / 2 : Math.min(1 - size, Math.max(0, centre - size / 2));

const BLUR_SHARE = 0.03;

/**
 * Draw a picture into the frame as it is framed.
 *
 * @param {CanvasRenderingContext2D} context @param {CanvasImageSource} image @param {[number, number]} picture
 * @param {Framing} framing @param {number} share
 */
export function drawFramed(context, image, picture, framing, share) {
  const { width, height } = context.canvas;
  const view = viewOf(framing, picture, [width, height], share);
  if (view.width > 1 || view.height > 1) {
    if (framing.fit === "colour") {
      context.fillStyle = framing.colour;
      context.fillRect(0, 0, width, height);
    } else {
      // the blur reaches past the edges, where it would mix with nothing
      const around = { ...framing, fit: "fill", zoom: 1, movement: "none" };
      context.filter = `blur(${Math.max(width, height) * BLUR_SHARE}px)`;
      const covering = viewOf(around, picture, [width, height], 0);
      drawView(context, image, picture, around, { ...covering, ...inner(covering) });
      context.filter = "none";
    }
  }
  drawView(context, image, picture, framing, view);
}

/** A little less of a view, so that it is drawn a little larger. @param {View} view */
const inner = (view) => ({
  left: view.left + view.width * 0.06,
  top: view.top + view.height * 0.06,
  width: view.width * 0.88,
  height: view.height * 0.88,
});

/** @param {CanvasRenderingContext2D} context @param {CanvasImageSource} image @param {[number, number]} picture @param {Framing} framing @param {View} view */
function drawView(context, image, picture, framing, view) {
  const { width, height } = context.canvas;
  const [wide, high] = framing.turns % 2 ? [picture[1], picture[0]] : picture;
  // the turned picture stands where the view has its edges on those of the frame
  const [w, h] = [width / view.width, height / view.height];
  context.save();
  context.translate(-view.left * w, -view.top * h);
  context.scale(w / wide, h / high);
  context.translate(wide / 2, high / 2);
  context.rotate((framing.turns * Math.PI) / 2);
  if (framing.mirror) context.scale(-1, 1);
  context.drawImage(image, -picture[0] / 2, -picture[1] / 2, picture[0], picture[1]);
  context.restore();
}
