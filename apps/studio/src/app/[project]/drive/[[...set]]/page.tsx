/** What is open is in the address; the place around reads it from there. */
export default function DrivePage() {
  return null;
}
