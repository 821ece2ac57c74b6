import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { LAST_PROJECT } from '@/http/project-facts';
import { database } from '@/server/database';
import { findProject, firstProject } from '@/server/projects';

export const dynamic = 'force-dynamic';

/** The project that this browser had open last, or else the first. */
export default async function Home() {
  const last = (await cookies()).get(LAST_PROJECT)?.value;
  const project = (last && (await findProject(database(), last))) || (await firstProject(database()));
  redirect(project ? `/${project.id}/takes` : '/projects');
}
