import type { Skeleton } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { core } from '@/worker/core';

/** What somebody with a skeleton looks like, without a skin of their own. */
export function useFigure(skeleton: Skeleton | null) {
  return useQuery({
    queryKey: ['figure', skeleton && JSON.stringify(skeleton)],
    enabled: skeleton !== null,
    staleTime: Infinity,
    queryFn: () => (skeleton ? core().figure(skeleton) : null),
  });
}
