import { create } from 'zustand'
import type { MarkColour, MarkShape } from '../contract.generated'

export type Tool = MarkShape | 'erase' | 'move' | 'point'

export const tools: readonly Tool[] = ['pen', 'highlighter', 'arrow', 'line', 'box', 'ellipse', 'text', 'move', 'erase', 'point']

export const widths = { thin: 24, middle: 56, thick: 120 } as const
export type Width = keyof typeof widths

/** With what one draws. The exhibit that is being drawn on, so that others beside it are not. */
export const useTools = create<{ on: number | null; tool: Tool; colour: MarkColour; width: Width }>(() => ({
  on: null,
  tool: 'pen',
  colour: 'vermilion',
  width: 'middle',
}))
