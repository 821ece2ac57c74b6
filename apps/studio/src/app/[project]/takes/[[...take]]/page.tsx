import { Takes } from '@/places/takes/Takes';

export default async function TakesPage({ params }: { params: Promise<{ take?: string[] }> }) {
  return <Takes open={(await params).take?.[0] ?? null} />;
}
