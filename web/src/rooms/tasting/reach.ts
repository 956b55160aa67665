const HERE = /^(localhost|127(\.\d+){3}|\[?::1\]?)$/;

/** Whether a link leads to this machine only: no phone can follow it. */
export const isOnThisMachine = (link: string) => HERE.test(new URL(link, 'http://localhost').hostname);
