import { useEffect, useRef } from 'react';
import { SHORTCUTS, TEXT_KEYS } from '../keys.js';

/** All keys. */
export function HelpPart({ open, close }: { open: boolean; close: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    if (open) dialog.current?.showModal();
    else dialog.current?.close();
  }, [open]);
  return (
    <dialog ref={dialog} onClose={close} aria-label="Keys">
      <h2>Keys</h2>
      <dl>
        {SHORTCUTS.map(({ shown, what }) => (
          <div key={shown}>
            <dt>{shown}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <h2>In the text</h2>
      <dl>
        {TEXT_KEYS.map(([shown, what]) => (
          <div key={shown}>
            <dt>{shown}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <p className="quiet">
        On the timeline: drag to scrub, wheel to zoom, Shift and wheel to scroll, Shift and drag to move. On the stage:
        drag to move, wheel to zoom, double click to follow again. In the text: drag a number.
      </p>
      <button type="button" onClick={close}>
        Close
      </button>
    </dialog>
  );
}
