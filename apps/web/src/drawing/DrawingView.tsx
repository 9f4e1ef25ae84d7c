import type { Drawing, Shape } from '@norther/core';
import { createContext, memo, type ReactNode, useContext, useMemo, useState } from 'react';

interface Marked {
  mark: string | undefined;
  setMark: (mark: string | undefined) => void;
}
const MarkContext = createContext<Marked>({ mark: undefined, setMark: () => undefined });

/** Drawings and tables inside share what is pointed at: a slot, coil, group or joint lights up in all of them. */
export function Highlights({ children }: { children: ReactNode }) {
  const [mark, setMark] = useState<string>();
  const value = useMemo(() => ({ mark, setMark }), [mark]);
  return <MarkContext.Provider value={value}>{children}</MarkContext.Provider>;
}

/** For table rows: what to set on hover and focus, and whether it is lit. */
export function useMark(of: string): {
  lit: boolean;
  onMouseEnter: () => void;
  onMouseLeave: () => void;
  onFocus: () => void;
  onBlur: () => void;
  tabIndex: number;
} {
  const { mark, setMark } = useContext(MarkContext);
  return {
    lit: mark === of,
    onMouseEnter: () => setMark(of),
    onMouseLeave: () => setMark(undefined),
    onFocus: () => setMark(of),
    onBlur: () => setMark(undefined),
    tabIndex: 0,
  };
}

/** Renders a shape list of the core as SVG; hovering a shape marks what it belongs to. */
export const DrawingView = memo(function DrawingView({
  drawing,
  className = '',
  onTouch,
}: {
  drawing: Drawing;
  className?: string;
  /** a shape or a place was touched: what it belongs to, and where in the drawing's own measure */
  onTouch?: ((of: readonly string[], at: { x: number; y: number }) => void) | undefined;
}) {
  const { mark, setMark } = useContext(MarkContext);
  return (
    <svg
      viewBox={`0 0 ${drawing.width} ${drawing.height}`}
      className={`drawing ${onTouch ? 'cursor-pointer' : ''} ${className}`}
      role="img"
      aria-label={drawing.title}
      onMouseLeave={() => setMark(undefined)}
      onClick={(e) => {
        if (!onTouch) return;
        const box = e.currentTarget.getBoundingClientRect();
        // the drawing keeps its shape inside the box, in the middle
        const scale = Math.min(box.width / drawing.width, box.height / drawing.height);
        const x = (e.clientX - box.left - (box.width - drawing.width * scale) / 2) / scale;
        const y = (e.clientY - box.top - (box.height - drawing.height * scale) / 2) / scale;
        onTouch((e.target as SVGElement).dataset['of']?.split(' ') ?? [], { x, y });
      }}
      onMouseOver={(e) => {
        const of = (e.target as SVGElement).dataset['of'];
        setMark(of?.split(' ')[0]);
      }}
    >
      {drawing.shapes.map((shape, i) => (
        <ShapeView
          key={i}
          shape={shape}
          dim={mark !== undefined && shape.of !== undefined && !shape.of.includes(mark) && relates(mark)}
        />
      ))}
    </svg>
  );
});

function relates(mark: string): boolean {
  return /^(slot|coil|group|jumper|lead|phase|star)/.test(mark);
}

const ShapeView = memo(function ShapeView({ shape, dim }: { shape: Shape; dim: boolean }) {
  const common = {
    className: `${shape.role}${dim ? ' dim' : ''}`,
    'data-of': shape.of?.join(' '),
    style: shape.weight ? { strokeWidth: `${1.6 * shape.weight}px` } : undefined,
  };
  switch (shape.kind) {
    case 'line':
      return <line x1={shape.x1} y1={shape.y1} x2={shape.x2} y2={shape.y2} {...common} />;
    case 'path':
      return <path d={shape.d} {...common} className={`${shape.fill ?? 'none'} ${common.className}`} />;
    case 'circle':
      return (
        <circle
          cx={shape.x}
          cy={shape.y}
          r={shape.r}
          {...common}
          className={`${shape.fill ?? 'none'} ${common.className}`}
        />
      );
    case 'text':
      return (
        <text
          x={shape.x}
          y={shape.y + shape.size * 0.35}
          fontSize={shape.size}
          textAnchor={shape.anchor}
          fontWeight={shape.bold ? 700 : undefined}
          {...common}
          style={undefined}
        >
          {shape.text}
        </text>
      );
  }
});
