/**
 * The two pages that a device sees before it is let in, each whole in itself: nothing else of Ivent is sent to it. How the authority is
 * trusted, over plain HTTP; how the device is paired, over HTTPS.
 */
import { readFileSync } from 'node:fs'

const font = (weight: number): string => {
  const file = require.resolve(`@fontsource/b612/files/b612-latin-${weight}-normal.woff2`)
  return `@font-face{font-family:B612;font-weight:${weight};src:url(data:font/woff2;base64,${readFileSync(file).toString('base64')})}`
}
/** The colours of src/app/globals.css, by day and by night. */
const style = (): string => `${font(400)}${font(700)}
:root{--paper:#f4f0e4;--ink:#17191d;--soft:#59554a;--rule:#d6cfbc;--blue:#1d3f9c;--on-blue:#fff;--stop:#a8102a;color-scheme:light}
@media (prefers-color-scheme:dark){:root{--paper:#12161c;--ink:#ece8db;--soft:#b3ad9d;--rule:#2f353f;--blue:#9db8ff;--on-blue:#0e1630;--stop:#ff7186;color-scheme:dark}}
*{box-sizing:border-box}
body{margin:0 auto;max-width:38rem;padding:1rem 1rem 3rem;background:var(--paper);color:var(--ink);font:1rem/1.45 B612,'DejaVu Sans',sans-serif}
h1{font-size:1.4rem;margin:.5rem 0 1rem;padding-bottom:.5rem;border-bottom:1.5px solid var(--ink)}
h2{font-size:1.05rem;margin:1.6rem 0 .4rem}
p,ol{margin:.5rem 0}ol{padding-left:1.4rem}li{margin:.35rem 0}
.soft{color:var(--soft)}[role=alert]{color:var(--stop);font-weight:700}
code{font:inherit;font-weight:700;overflow-wrap:anywhere}
.print{display:block;word-spacing:.35em;letter-spacing:.02em}
label{display:block;font-weight:700;margin:1.2rem 0 .3rem}
input{width:100%;min-height:48px;padding:.4rem .6rem;font:inherit;color:inherit;background:transparent;border:1.5px solid var(--ink)}
button,.button{display:flex;align-items:center;justify-content:center;width:100%;min-height:48px;margin-top:1.4rem;padding:.4rem 1rem;font:inherit;font-weight:700;color:var(--on-blue);background:var(--blue);border:0;text-decoration:none;cursor:pointer}
button:disabled{opacity:.6}a{color:var(--blue)}
:focus-visible{outline:3px solid var(--blue);outline-offset:2px}`

/** What these pages may load: what stands in them, and what is named beside. */
export const policyOf = (more: string): string =>
  `default-src 'none'; style-src 'unsafe-inline'; font-src data:; base-uri 'none'; form-action 'none'; frame-ancestors 'none'; ${more}`

/** Text as it may stand in HTML. */
const text = (s: string) =>
  s.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title} · Ivent</title><style>${style()}</style></head>
<body><main>${body}</main></body></html>
`

export const AUTHORITY_FILE = '/ivent-authority.crt'

/** How a device comes to trust this Ivent: the certificate, its fingerprint, the steps on each kind of device. */
export const trustPage = ({
  fingerprint,
  address,
}: {
  readonly fingerprint: string
  readonly address: string
}): string =>
  page(
    'Trust this Ivent',
    `<h1>Ivent: trust this workshop’s own certificate</h1>
<p>Once on each device. It lets the device know that it talks to the Ivent in this workshop and to nobody in between, and pages then open
at the car without a connection too. Without it Ivent works while its page is open; the browser warns first, and nothing is kept for when there
is no connection.</p>
<a class="button" href="${AUTHORITY_FILE}" download="ivent-authority.crt">Get the certificate</a>
<h2>Compare before you trust</h2>
<p>This page came without encryption, so anybody in the network could have changed it. The bench shows the same fingerprint under Devices
(SHA-256); your device shows it when you open the certificate. All 32 pairs must be the same:</p>
<p><code class="print">${text(fingerprint)}</code></p>
<p class="soft">The certificate is good for this workshop’s own names and for addresses of local networks, and for no site of the internet.</p>
<h2>Android phone or tablet</h2>
<ol><li>Press <b>Get the certificate</b>; it is kept among the downloads.</li>
<li>Settings, search for <b>CA certificate</b> (under Security, Encryption and credentials, Install a certificate). The device warns that
traffic could be watched: that holds for an authority in wrong hands, so compare the fingerprint.</li>
<li>Choose the downloaded file. It asks for the screen lock.</li></ol>
<h2>iOS or iPadOS</h2>
<ol><li>Press <b>Get the certificate</b> and allow the profile to be downloaded.</li>
<li>Settings, <b>Profile downloaded</b> (or General, VPN and device management): install it.</li>
<li>Settings, General, About, <b>Certificate trust settings</b>: switch it on. Without this step it is not trusted.</li></ol>
<h2>Laptop</h2>
<ol><li>Press <b>Get the certificate</b> and open the file, or import it in the browser’s settings (search for <b>certificates</b>, Authorities).</li>
<li>Trust it for websites.</li></ol>
<h2>Then</h2>
<p>Press <b>Let a device in</b> at the bench and point the camera at its picture; or open <code>${text(address)}</code> and type its words.</p>`,
  )

/** What happens on the pairing page; plain script, for a device that has nothing of Ivent yet. */
const PAIRING_SCRIPT = `
const form = document.querySelector('form'), note = document.querySelector('#note'), code = document.querySelector('#code')
const button = form.querySelector('button')
const fromPicture = location.hash.slice(1)
history.replaceState(null, '', location.pathname)
if (fromPicture) { code.value = fromPicture; document.querySelector('#words').hidden = true }
const agent = navigator.userAgent
const kind = /iPad|Tablet/.test(agent) ? 'Tablet' : /iPhone|Mobile/.test(agent) ? 'Phone' : /Android/.test(agent) ? 'Tablet' : 'Laptop'
document.querySelector('#name').value = kind
form.addEventListener('submit', async (event) => {
  event.preventDefault()
  button.disabled = true
  note.textContent = ''
  try {
    const reply = await fetch('/pair', { method: 'POST', headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: document.querySelector('#name').value, code: code.value }) })
    if (reply.ok) return location.replace('/')
    note.textContent = (await reply.json()).error
    // a picture that no longer counts gives way to words
    document.querySelector('#words').hidden = false
    code.value = ''
  } catch { note.textContent = 'Ivent does not answer. Is this device in the workshop’s network?' }
  button.disabled = false
})
`

/** How a device is let in; `wasOut` where it had been and was put out. */
export const pairPage = ({ nonce, wasOut, trust }: { nonce: string; wasOut: boolean; trust: string }): string =>
  page(
    'Pair this device',
    `<h1>Ivent: pair this device</h1>
${
  wasOut
    ? '<p role="alert">This device was put out at the bench. Pages kept on it are gone; what you entered and was not sent yet waits here, and is sent once it is paired again.</p>'
    : ''
}
<p>At the bench open the garage’s <b>Devices</b> and press <b>Let a device in</b>. Its code stands for two minutes and lets in one device.</p>
<form>
<label for="name">What is this device called?</label>
<input id="name" maxlength="80" autocomplete="off" required>
<div id="words"><label for="code">The six words on the bench’s screen</label>
<input id="code" autocomplete="off" autocapitalize="none" spellcheck="false" required></div>
<p role="alert" id="note"></p>
<button>Pair it</button>
</form>
<p class="soft">Did the browser warn about this page? <a href="${text(trust)}">How this device trusts Ivent</a>, once.</p>
<script nonce="${nonce}">${wasOut ? 'caches.keys().then((all) => all.forEach((name) => caches.delete(name))).catch(() => undefined)' : ''}${PAIRING_SCRIPT}</script>`,
  )
