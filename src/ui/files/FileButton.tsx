/** A button that picks a file; the same one can be picked again. */
export function FileButton({ words, accept, onFile }: { words: string; accept: string; onFile: (file: File) => void }) {
  return (
    <label className="button">
      {words}
      <input
        type="file"
        className="sr-only"
        accept={accept}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) onFile(file);
          event.target.value = '';
        }}
      />
    </label>
  );
}
