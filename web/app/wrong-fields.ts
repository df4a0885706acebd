import type { FieldValues, Path, UseFormSetError } from 'react-hook-form';
import type { ApiError } from './api';

/** Puts what was wrong beside the fields that it is of. @returns whether it was of any */
export function putBeside<T extends FieldValues>(error: Error, fields: readonly Path<T>[], setError: UseFormSetError<T>): boolean {
  const own = ((error as Partial<ApiError>).body?.fields ?? []).filter((f) => (fields as readonly string[]).includes(f.path));
  own.forEach((f) => setError(f.path as Path<T>, { message: f.message }));
  return own.length > 0;
}
