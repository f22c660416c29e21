/** Two sheets, one laid on the other. */
export function Mark({ size = 28 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <path d="M4 9 20 6v20L4 27z" fill="none" stroke="currentColor" strokeWidth="1.8" />
      <path d="M12 5 28 3v20l-16 2z" fill="#d4451f" fillOpacity=".14" stroke="#d4451f" strokeWidth="1.8" />
    </svg>
  );
}
