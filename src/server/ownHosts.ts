/** Names under which this machine may be asked; anything else could be a page from elsewhere that rebinds its name. */
const OWN_HOSTS = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

export const isOwnHost = (host: string | undefined): boolean => OWN_HOSTS.test(host ?? '');

/** A page of this machine, or no page at all. */
export function isOwnOrigin(origin: string | undefined): boolean {
  if (origin === undefined) return true;
  return OWN_HOSTS.test(URL.canParse(origin) ? new URL(origin).host : '');
}
