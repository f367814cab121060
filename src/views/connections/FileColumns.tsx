import Papa from 'papaparse';
import { useState } from 'react';
import type { RecordReading } from '../../core/crms/schema';
import { FileButton } from '../../ui/files/FileButton';
import { RecordMapping } from './RecordMapping';
import { Part } from '../../ui/form/rows';

/** What the columns of a CRM's files hold, remembered for the next file. */
export function FileColumns({
  columns,
  disabled,
  onEdit,
}: {
  columns: RecordReading;
  disabled: boolean;
  onEdit: (columns: RecordReading) => void;
}) {
  const [example, setExample] = useState<Record<string, string> | undefined>(undefined);
  const [wrong, setWrong] = useState('');
  const read = async (file: File) => {
    const { data, meta } = Papa.parse<Record<string, string>>(await file.text(), {
      header: true,
      preview: 1,
      skipEmptyLines: true,
      transformHeader: (name) => name.trim().toLowerCase(),
    });
    const [first] = data;
    const isTable = (meta.fields ?? []).length > 1;
    setWrong(isTable ? '' : 'This file has no columns with commas between them. Save it as CSV first.');
    setExample(isTable ? (first ?? {}) : undefined);
  };
  return (
    <Part
      heading="What is in which column of its files"
      under="Choose one file as an example; nothing of it is stored. What its columns are is remembered."
    >
      {!disabled && <FileButton words="Choose an example" accept=".csv" onFile={(file) => void read(file)} />}
      {wrong && (
        <p role="alert" className="text-error mt-2">
          {wrong}
        </p>
      )}
      <RecordMapping example={example} reading={columns} disabled={disabled} onEdit={onEdit} />
    </Part>
  );
}
