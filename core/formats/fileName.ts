/**
 * A title as the name of a file that every system takes.
 * @example fileName('Lantern & lock: §2') // 'Lantern-lock-2'
 */
export function fileName(title: string): string {
  const plain = title
    .normalize('NFKD')
    .replaceAll(/[^\w -]/g, '')
    .trim();
  return plain.replaceAll(/\s+/g, '-').slice(0, 60) || 'song';
}
