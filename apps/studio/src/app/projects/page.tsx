import { Projects } from '@/places/projects/Projects';

export default function Page() {
  return <Projects />;
}
