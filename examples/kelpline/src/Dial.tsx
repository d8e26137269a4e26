/** A vector on a dial, with the facing as a mark on its rim. */
export function Dial({ x, y, faceX, faceY }: { x: number; y: number; faceX: number; faceY: number }) {
  const said =
    x === 0 && y === 0 ? "still" : `${Math.round(x * 100)} percent right, ${Math.round(y * 100)} percent up`;
  return (
    <svg className="dial" viewBox="-1.25 -1.25 2.5 2.5" role="img" aria-label={`Movement: ${said}`}>
      <circle r="1" className="rim" />
      <circle r="0.12" className="zone" />
      <path d="M-1 0H1M0 -1V1" className="cross" />
      <path d={`M${faceX * 1.02} ${-faceY * 1.02}L${faceX * 1.2} ${-faceY * 1.2}`} className="face" />
      <path d={`M0 0L${x} ${-y}`} className="arrow" />
      <circle cx={x} cy={-y} r="0.09" className="tip" />
    </svg>
  );
}
