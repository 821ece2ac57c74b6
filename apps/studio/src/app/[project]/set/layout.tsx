import { SetPlace } from '@/places/places';

/** The place stands here and not in the page, so that it stays as it is while what is open changes. */
export default function SetLayout() {
  return <SetPlace />;
}
