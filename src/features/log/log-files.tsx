'use client'
/** The log as a table, out and in; what reads it is fetched when it is asked for. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useState } from 'react'
import { FileButton } from '@/ui/file-button'
import { saveLog } from '../workspace/frame/save-files'
import { useWorkspace } from '../workspace/store'

const LogImport = dynamic(() => importWithRetry(() => import('./log-import')), { ssr: false })

export function LogFiles() {
  const build = useWorkspace((s) => s.build)
  const [opened, setOpened] = useState<{ readonly name: string; readonly text: string } | undefined>(undefined)
  const [done, setDone] = useState('')
  return (
    <div className="no-print flex flex-wrap gap-x-4">
      <button type="button" className="link-button" onClick={() => void saveLog(build)}>
        Log as CSV
      </button>
      <FileButton
        accept=".csv,text/csv"
        onFile={(file) => void file.text().then((text) => setOpened({ name: file.name, text }))}
      >
        Read a log in
      </FileButton>
      <span role="status" className="text-good">
        {done}
      </span>
      {opened && (
        <LogImport
          {...opened}
          onClose={(said) => {
            setDone(said)
            setOpened(undefined)
          }}
        />
      )}
    </div>
  )
}
