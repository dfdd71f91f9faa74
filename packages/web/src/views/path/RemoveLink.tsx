export function RemoveLink({ label, onClick }: { label: string; onClick(): void }) {
  return (
    <button type="button" className="link quiet-link" aria-label={label} onClick={onClick}>
      remove
    </button>
  );
}
