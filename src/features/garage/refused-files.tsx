'use client'
/** Files that were not brought in, each with what is wrong and where. */
import { Dialog } from '@/ui/dialog'
import type { RefusedFile } from './bring-in'

export default function RefusedFiles({ refused, onClose }: { refused: readonly RefusedFile[]; onClose: () => void }) {
  const [first] = refused
  const title =
    refused.length === 1 ? `${first!.file} was not brought in` : `${refused.length} files were not brought in`
  return (
    <Dialog open onClose={onClose} title={title} {...(refused.length === 1 ? { about: first!.error } : {})} wide>
      {refused.map((r) => (
        <section key={r.file} className="mb-4">
          {refused.length > 1 && (
            <p>
              <strong>{r.file}</strong>: {r.error}
            </p>
          )}
          {r.problems.length > 0 && (
            <table className="table w-full">
              <thead>
                <tr>
                  <th>Where</th>
                  <th>What is wrong</th>
                </tr>
              </thead>
              <tbody>
                {r.problems.map((p, i) => (
                  <tr key={`${p.path} ${p.message} ${String(i)}`}>
                    <th scope="row" className="!whitespace-normal !text-ink">
                      {p.path}
                    </th>
                    <td>{p.message}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      ))}
    </Dialog>
  )
}
