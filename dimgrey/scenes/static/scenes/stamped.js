// Every act carries an id of its own and the time it was done at, so that one that is sent twice is done once.
// Without a secure address a browser has no randomUUID.
export const newId = () =>
  crypto.randomUUID
    ? crypto.randomUUID()
    : ([1e7] + -1e3 + -4e3 + -8e3 + -1e11).replace(/[018]/g, (c) =>
        (c ^ (crypto.getRandomValues(new Uint8Array(1))[0] & (15 >> (c / 4)))).toString(16),
      );

export const stamped = () => ({ act: newId(), at: new Date().toISOString() });
