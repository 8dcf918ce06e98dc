import { fireEvent, render, screen } from '@testing-library/react';
import { ErrorBoundary } from 'react-error-boundary';
import { expect, test, vi } from 'vitest';
import { StationBroken } from './StationBroken.tsx';

test('a station that breaks says so, with what it was, and can be opened again', () => {
  vi.spyOn(console, 'error').mockImplementation(() => undefined);
  let broken = true;
  const Station = () => {
    if (broken) throw new Error('no such lamp');
    return <p>the station</p>;
  };
  render(
    <ErrorBoundary FallbackComponent={StationBroken}>
      <Station />
    </ErrorBoundary>,
  );
  expect(screen.getByRole('alert').textContent).toContain('no such lamp. Nothing that was saved is lost');
  broken = false;
  fireEvent.click(screen.getByRole('button', { name: 'Open it again' }));
  expect(screen.getByText('the station')).toBeTruthy();
});
