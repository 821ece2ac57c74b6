import Link from 'next/link';

export default function NotFound() {
  return (
    <main style={{ padding: 40 }}>
      <h1>There is nothing at this address</h1>
      <p>
        The project, take or clip may have been removed. <Link href="/projects">Go to all projects</Link>
      </p>
    </main>
  );
}
