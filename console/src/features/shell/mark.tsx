export function Mark() {
  return <img src="/mark.svg" width={18} height={16} alt="" />;
}
