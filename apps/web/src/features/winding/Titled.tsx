import { drawingToSvg, type Drawing } from '@norther/core';
import type { ReactNode } from 'react';

/** A heading with the drawing as a file beside it. */
export function Titled({
  title,
  drawing,
  file,
  children,
}: {
  title: string;
  drawing: Drawing | undefined;
  file: string;
  children?: ReactNode;
}) {
  const save = (): void => {
    if (!drawing) return;
    const url = URL.createObjectURL(new Blob([drawingToSvg(drawing)], { type: 'image/svg+xml' }));
    const a = document.createElement('a');
    a.href = url;
    a.download = `${file}.svg`;
    a.click();
    setTimeout(() => URL.revokeObjectURL(url), 1000);
  };
  return (
    <h2 className="font-semibold flex flex-wrap gap-3 items-center">
      {title}
      {children}
      {drawing ? (
        <button type="button" className="text-small font-normal text-accent underline ml-auto" onClick={save}>
          SVG<span className="sr-only"> of {title}</span>
        </button>
      ) : null}
    </h2>
  );
}
