import { Alert } from '@mui/material';
import type { ReactNode } from 'react';

/** What is wrong and what helps, in ink with a bar. @param lead what is wrong. */
export function Problem({
  lead,
  children,
  action,
  role = 'alert',
}: {
  lead?: ReactNode;
  children?: ReactNode;
  action?: ReactNode;
  role?: 'alert' | 'status' | 'note';
}) {
  return (
    <Alert role={role} action={action}>
      {lead && <strong>{lead} </strong>}
      {children}
    </Alert>
  );
}

/** A reason as the sentence that it is on a page. */
export function sentence(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}
