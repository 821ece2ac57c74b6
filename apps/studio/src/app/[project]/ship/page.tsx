import { ShipPlace } from '@/places/places';

export default function ShipPage() {
  return <ShipPlace />;
}
