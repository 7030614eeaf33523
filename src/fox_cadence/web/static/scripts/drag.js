// A drag, from where it was begun until it is let go.

/**
 * Follow the pointer. Letting go keeps what was done, Escape gives it back.
 *
 * @param {(event: PointerEvent) => void} move at every movement
 * @param {(keep: boolean) => void} end once
 */
export function drag(move, end) {
  const done = (/** @type {boolean} */ keep) => {
    removeEventListener("pointermove", move);
    removeEventListener("pointerup", up);
    removeEventListener("keydown", key, true);
    end(keep);
  };
  const up = () => done(true);
  const key = (/** @type {KeyboardEvent} */ event) => {
    if (event.key !== "Escape") return;
    event.stopPropagation();
    done(false);
  };
  addEventListener("pointermove", move);
  addEventListener("pointerup", up);
  addEventListener("keydown", key, true);
}
