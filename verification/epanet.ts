/** A network of hoses as an input file for the pipe-network engine epanet-js, held incompressible: gas as a liquid of one density. */
import { LinkProperty, NodeProperty, Project, Workspace } from 'epanet-js'
import { airViscosity } from '../src/core/gas/air'
import type { Hose, Network } from '../src/core/network/elements'

const G = 9.80665
/** EPANET counts viscosity in multiples of water's at 20 C, 1.1e-5 ft2/s */
const WATER_NU = 1.1e-5 * 0.3048 ** 2

export type PipeNetwork = { readonly network: Network; readonly rho: number; readonly pDatum: number }

export function inputFile({ network, rho, pDatum }: PipeNetwork): string {
  const nu = airViscosity(network.gas.T) / rho
  const head = (p: number) => (p - pDatum) / (rho * G)
  const nodes = Object.entries(network.nodes)
  const lps = (m: number) => (m / rho) * 1000
  return [
    '[JUNCTIONS]',
    ...nodes.filter(([, n]) => n.p === undefined).map(([id, n]) => `${id} 0 ${-lps(n.source ?? 0)}`),
    '[RESERVOIRS]',
    ...nodes.filter(([, n]) => n.p !== undefined).map(([id, n]) => `${id} ${head(n.p!)}`),
    '[PIPES]',
    ...network.elements.map((e) => {
      const h = e as Hose
      return `${h.id} ${h.from} ${h.to} ${h.lengthM} ${h.boreM * 1000} ${h.roughnessM * 1000} ${h.kFixed} Open`
    }),
    '[OPTIONS]',
    'Units LPS',
    'Headloss D-W',
    `Viscosity ${nu / WATER_NU}`,
    'Accuracy 0.0000001',
    'Trials 200',
    '[TIMES]',
    'Duration 0',
    '[REPORT]',
    'Status No',
    '[END]',
    '',
  ].join('\n')
}

export async function openEpanet(p: PipeNetwork) {
  const workspace = new Workspace()
  await workspace.loadModule()
  const project = new Project(workspace)
  workspace.writeFile('net.inp', inputFile(p))
  project.open('net.inp', 'net.rpt', 'net.out')
  return {
    solve: () => project.solveH(),
    pressure: (id: string) => project.getNodeValue(project.getNodeIndex(id), NodeProperty.Head) * p.rho * G + p.pDatum,
    flow: (id: string) => (project.getLinkValue(project.getLinkIndex(id), LinkProperty.Flow) / 1000) * p.rho,
    close: () => project.close(),
  }
}

/** Six unknown joints between an inlet tract and a sink a little below it: drops of some hundred pascals, where gas hardly expands. */
export function sixUnknowns(): PipeNetwork {
  const T = 293.15
  const p0 = 101325
  const hose = (id: string, from: string, to: string, [mm, m, k]: readonly [number, number, number]): Hose => ({
    kind: 'hose',
    id,
    from,
    to,
    boreM: mm / 1000,
    lengthM: m,
    roughnessM: 1.5e-6,
    kFixed: k,
    kPerF: 0,
  })
  return {
    rho: p0 / (287.05 * T),
    pDatum: p0 - 600,
    network: {
      gas: { R: 287.05, gamma: 1.4, T },
      nodes: {
        a: { source: 4e-3 },
        b: {},
        c: {},
        d: {},
        e: {},
        f: { source: 1e-3 },
        inlet: { p: p0 },
        sink: { p: p0 - 400 },
      },
      elements: [
        hose('ab', 'a', 'b', [16, 0.6, 1]),
        hose('ac', 'a', 'c', [14.3, 0.8, 1.5]),
        hose('bd', 'b', 'd', [16, 0.5, 0.8]),
        hose('cd', 'c', 'd', [12.7, 0.4, 1]),
        hose('de', 'd', 'e', [19, 0.9, 2]),
        hose('ef', 'e', 'f', [16, 0.3, 1]),
        hose('fs', 'f', 'sink', [22, 0.7, 1.5]),
        hose('ei', 'inlet', 'e', [12.7, 0.9, 2]),
      ],
    },
  }
}
