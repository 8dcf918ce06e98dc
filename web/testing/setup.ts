import { cleanup, configure } from '@testing-library/react';
import { afterEach } from 'vitest';

// What is waited for comes late on a loaded machine.
configure({ asyncUtilTimeout: 40_000 });
afterEach(cleanup);
