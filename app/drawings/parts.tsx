/** Parts that the drawings are put together from. All drawings are 96 wide and 56 high, in lines of the text's color; what is filled is what matters. */
export const Blade = () => <path d="M34 23h48l6 5-6 5h-5l-4-4-4 4-4-4-4 4H34z" />;
export const ShortBlade = () => <path d="M34 23h22l6 5-6 5h-4l-4-4-4 4H34z" />;
export const PlainHead = () => (
  <>
    <circle cx="21" cy="28" r="14" />
    <circle cx="15" cy="28" r="3" />
  </>
);
export const ThickHead = () => (
  <>
    <rect x="5" y="13" width="30" height="30" rx="11" />
    <circle cx="13" cy="28" r="3" />
  </>
);
export const Chip = () => <rect x="23" y="24" width="7" height="8" rx="1" fill="currentColor" />;
export const Buttons = () => (
  <>
    <circle cx="19" cy="21" r="2.5" fill="currentColor" />
    <circle cx="26" cy="21" r="2.5" fill="currentColor" />
  </>
);
export const Fob = () => (
  <>
    <rect x="8" y="15" width="40" height="26" rx="11" />
    <circle cx="21" cy="28" r="3" />
    <circle cx="32" cy="28" r="3" />
  </>
);
export const Waves = ({ x, y }: { x: number; y: number }) => (
  <path d={`M${x} ${y - 6}q5 6 0 12M${x + 6} ${y - 10}q9 10 0 20M${x + 12} ${y - 14}q13 14 0 28`} />
);
export const Box = ({ x, y, width = 30, height = 18 }: { x: number; y: number; width?: number; height?: number }) => (
  <path
    d={`M${x} ${y}h${width}v${height}h${-width}zM${x + 5} ${y + height}v4M${x + 12} ${y + height}v4M${x + width - 12} ${y + height}v4M${x + width - 5} ${y + height}v4`}
  />
);
