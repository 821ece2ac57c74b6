import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { Shell } from '@/shell/Shell';

export default async function ProjectLayout({ children, params }: { children: ReactNode; params: Promise<{ project: string }> }) {
  const project = await findProject(database(), (await params).project);
  if (!project) notFound();
  return (
    <Shell
      project={{
        id: project.id,
        name: project.name,
        character: project.character,
        fps: project.fps,
        namePattern: project.namePattern,
        fitTo: project.fitTo,
        settlesFloor: project.settlesFloor,
      }}
    >
      {children}
    </Shell>
  );
}
