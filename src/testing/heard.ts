import { afterEach, beforeEach, vi } from 'vitest';

/** What a command line says on its two ways out, caught in each test of the file that calls this. */
export function heardCommandLine(): { said: string; complained: string } {
  const heard = { said: '', complained: '' };
  beforeEach(() => {
    [heard.said, heard.complained] = ['', ''];
    vi.spyOn(process.stdout, 'write').mockImplementation((text) => {
      heard.said += String(text);
      return true;
    });
    vi.spyOn(process.stderr, 'write').mockImplementation((text) => {
      heard.complained += String(text);
      return true;
    });
  });
  afterEach(() => vi.restoreAllMocks());
  return heard;
}
