import { redirect } from 'next/navigation';
import { database } from '@/server/database';
import { firstProject } from '@/server/projects';

export const dynamic = 'force-dynamic';

export default async function Home() {
  const project = await firstProject(database());
  redirect(project ? `/${project.id}/takes` : '/projects');
}
