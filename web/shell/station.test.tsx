import { fireEvent, render, screen } from '@testing-library/react';
import { ErrorBoundary } from 'react-error-boundary';
import { createMemoryRouter, Link, Outlet, RouterProvider, useLocation } from 'react-router';
import { expect, test, vi } from 'vitest';
import { part } from '../shared/part.ts';
import { StationBroken, Thrown } from './StationBroken.tsx';

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

test('a station that cannot be loaded says why, keeps what is around it, and goes when another is opened', async () => {
  vi.spyOn(console, 'error').mockImplementation(() => undefined);
  const Layout = () => (
    <>
      <Link to="/near">near</Link>
      <ErrorBoundary FallbackComponent={StationBroken} resetKeys={[useLocation().pathname]}>
        <Outlet />
      </ErrorBoundary>
    </>
  );
  const away = (): Promise<never> => part(() => Promise.reject(new TypeError('Failed to fetch')));
  const router = createMemoryRouter(
    [
      {
        element: <Layout />,
        children: [
          {
            errorElement: <Thrown />,
            children: [
              { path: '/', element: <Link to="/far">far</Link> },
              { path: '/far', lazy: away },
              { path: '/near', element: <p>the near station</p> },
            ],
          },
        ],
      },
    ],
    { initialEntries: ['/'] },
  );
  render(<RouterProvider router={router} />);
  fireEvent.click(screen.getByRole('link', { name: 'far' }));
  expect((await screen.findByRole('alert')).textContent).toContain('This station could not be loaded.');
  expect(screen.getByRole('button', { name: 'Load the page anew' })).toBeTruthy();
  fireEvent.click(screen.getByRole('link', { name: 'near' }));
  expect(await screen.findByText('the near station')).toBeTruthy();
  expect(screen.queryByRole('alert')).toBeNull();
});
