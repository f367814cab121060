/** How the address of an account begins whose files are put into a folder of this machine. */
export const folderBeginning = 'folder:';

/** Whether an address names a folder, such as `folder:partner`. */
export const isFolder = (written: string): boolean => /^folder:[a-z0-9][a-z0-9-]{0,59}$/.test(written);
