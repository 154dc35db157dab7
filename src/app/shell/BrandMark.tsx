/** The name of the product with its sign. */
export function BrandMark() {
  return (
    <span className="flex items-center gap-2 font-semibold text-[17px]">
      <svg width="20" height="20" viewBox="0 0 24 24" aria-hidden="true">
        <path d="M12 1.500 22.500 12 12 22.500 1.500 12Z" fill="var(--forest)" />
        <path
          d="M6.500 13.500c2-4 3.600-4 5.500-1.500s3.500 2.500 5.500-1.500"
          fill="none"
          stroke="var(--on-forest)"
          strokeWidth="1.800"
          strokeLinecap="round"
        />
      </svg>
      Wanderweg
    </span>
  );
}
