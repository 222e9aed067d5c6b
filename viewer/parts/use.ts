import { createContext, useContext, useEffect, useRef, useSyncExternalStore } from 'react';
import { DARK, LIGHT, type Palette } from '../../src/draw/palette.js';
import { CanvasPen } from '../canvas-pen.js';
import type { Model } from '../model/model.js';

export const ModelContext = createContext<Model | null>(null);

/** The model; what uses it is drawn again whenever that changes. */
export function useModel(): Model {
  const model = useContext(ModelContext);
  if (!model) throw new Error('no model');
  useSyncExternalStore(model.subscribe, model.state);
  return model;
}

/** The same without being drawn again. */
export function useQuietModel(): Model {
  const model = useContext(ModelContext);
  if (!model) throw new Error('no model');
  return model;
}

const dark = window.matchMedia('(prefers-color-scheme: dark)');

export function paletteNow(): Palette {
  return dark.matches ? DARK : LIGHT;
}

/** Calls back whenever the system's setting of colours changes; gives what stops it. */
export function onDark(call: () => void): () => void {
  dark.addEventListener('change', call);
  return () => dark.removeEventListener('change', call);
}

/**
 * A canvas that is drawn once a frame, and only if something has changed: outside React, so that nothing else is compared for it.
 * @param draw Is given a pen and the size in pixels of the page.
 */
export function useCanvas(draw: (pen: CanvasPen, width: number, height: number) => void) {
  const model = useQuietModel();
  const canvas = useRef<HTMLCanvasElement>(null);
  const latest = useRef(draw);
  latest.current = draw;
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    const pen = new CanvasPen(context);
    let asked = 0;
    const paint = () => {
      asked = 0;
      const { clientWidth: width, clientHeight: height } = element;
      const ratio = window.devicePixelRatio || 1;
      const [wide, tall] = [Math.round(width * ratio), Math.round(height * ratio)];
      if (element.width !== wide || element.height !== tall) [element.width, element.height] = [wide, tall];
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      latest.current(pen, width, height);
    };
    const ask = () => {
      if (asked === 0) asked = requestAnimationFrame(paint);
    };
    const stop = model.subscribe(ask);
    const sizes = new ResizeObserver(ask);
    sizes.observe(element);
    const undark = onDark(ask);
    ask();
    return () => {
      stop();
      sizes.disconnect();
      undark();
      cancelAnimationFrame(asked);
    };
  }, [model]);
  return canvas;
}
