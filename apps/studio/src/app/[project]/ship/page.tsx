import { Ship } from '@/places/ship/Ship';

export default function ShipPage() {
  return <Ship />;
}
