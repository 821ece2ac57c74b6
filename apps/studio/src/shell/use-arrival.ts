'use client';
import { usePathname, useSearchParams } from 'next/navigation';
import { useEffect } from 'react';
import { goOn } from '@/data/hold';

/** What stood still while this page was on its way goes on: when a project is opened, and whenever its address has changed. */
export function useArrival(): void {
  const path = usePathname();
  const query = useSearchParams();
  useEffect(() => goOn(), [path, query]);
}
