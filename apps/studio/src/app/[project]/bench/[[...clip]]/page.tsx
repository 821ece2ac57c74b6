import { Bench } from '@/places/bench/Bench';

export default async function BenchPage({ params }: { params: Promise<{ clip?: string[] }> }) {
  return <Bench open={(await params).clip?.[0] ?? null} />;
}
