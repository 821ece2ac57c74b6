import { Enter } from '@/shell/Enter';

export default function Page() {
  return <Enter />;
}
