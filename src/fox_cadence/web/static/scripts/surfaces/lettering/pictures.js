// The pictures behind the words on the cards of the proof sheet, framed, adjusted and laid over as in the piece.

import { Colours, coloursKey } from "../../frame/adjusting.js";
import { drawLaid } from "../../frame/laid.js";
import { drawShot } from "../../frame/shot_picture.js";
import { pictureAt } from "../../frame/clip_pictures.js";
import { clipSeconds } from "../../timeline.js";

/** @typedef {import("../../types.d.ts").Timeline} Timeline */

/** How wide a picture on a card is drawn. */
const PICTURE_PX = 240;

export class CardPictures {
  /** @param {() => void} onCome called when what a picture waits for is there */
  constructor(onCome) {
    this.colours = new Colours(onCome);
  }

  /** The picture of a frame of the piece on a card, unless it is there already. @param {Timeline} t @param {number} at @param {HTMLElement} card */
  async draw(t, at, card) {
    const shot = t.shots.findLast((each) => each.start <= at) ?? t.shots[0];
    const canvas = card.querySelector("canvas");
    card.style.aspectRatio = `${t.width} / ${t.height}`;
    card.style.backgroundColor = shot?.colour ?? "";
    if (!canvas || !shot) return;
    const second = t.rate.denominator / t.rate.numerator;
    const moment = clipSeconds(shot, (at - shot.start) * second);
    const source = shot.clip ? pictureAt(shot.clip, moment) : "";
    const key = coloursKey(shot.adjustment);
    const table = this.colours.get(key);
    const seen = JSON.stringify([shot.framing, shot.adjustment, shot.laid]);
    const asked = `${source} ${seen} ${table ? "" : key} ${t.width} ${t.height}`;
    if (canvas.dataset.drawn === asked) return;
    canvas.dataset.drawn = asked;
    canvas.width = PICTURE_PX;
    canvas.height = Math.round((PICTURE_PX * t.height) / t.width);
    const context = canvas.getContext("2d");
    if (!source || !context) return;
    const image = new Image();
    image.src = source;
    await image.decode().catch(() => {});
    if (canvas.dataset.drawn !== asked || !image.naturalWidth) return;
    const share = (at - shot.start) / Math.max(1, shot.end - shot.start - 1);
    drawShot(context, image, [image.naturalWidth, image.naturalHeight], shot, share, table);
    drawLaid(context, shot.laid, share);
  }
}
