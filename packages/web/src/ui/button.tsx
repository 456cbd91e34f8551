import { cva, type VariantProps } from 'class-variance-authority'
import { cn } from './cn'

const dashedWhenShut =
  'disabled:border-[1.5px] disabled:border-dashed disabled:border-rule-strong disabled:bg-transparent disabled:text-ink-soft'

/** What a button looks like. Links and triggers that act as buttons take it as their class. */
export const button = cva('inline-flex items-center justify-center gap-2 rounded-sm whitespace-nowrap no-underline', {
  variants: {
    look: {
      /** The one thing to do here: ink acts. */
      act: `relative bg-act font-heavy text-on-ink enabled:hover:bg-act/86 [&_kbd]:text-inherit ${dashedWhenShut}`,
      quiet: `relative border-[1.5px] border-ink font-firm enabled:hover:bg-ground-press [a&]:hover:bg-ground-press ${dashedWhenShut}`,
      plain: 'relative underline decoration-1 underline-offset-3 hover:bg-ground-press disabled:text-ink-soft',
      /** A picture without words: it needs an aria-label, and a Tip. */
      icon: 'size-8.5 hover:bg-ground-press disabled:opacity-35',
    },
    size: { row: 'text-row', tall: 'text-body' },
    /** Over the whole width; the label may take a second line rather than lose a letter. */
    wide: { true: 'w-full py-1.5 text-left leading-snug whitespace-normal' },
  },
  compoundVariants: [
    { look: ['act', 'quiet'], size: 'row', className: 'px-3' },
    { look: ['act', 'quiet'], size: 'tall', className: 'px-4' },
    { look: 'plain', className: 'px-1.5' },
    { look: ['act', 'quiet', 'plain'], size: 'row', className: 'min-h-8.5' },
    { look: ['act', 'quiet', 'plain'], size: 'tall', className: 'min-h-11' },
  ],
  defaultVariants: { look: 'quiet', size: 'row' },
})

type ButtonProps = React.ButtonHTMLAttributes<HTMLButtonElement> &
  VariantProps<typeof button> & { readonly ref?: React.Ref<HTMLButtonElement> | undefined }

/** A button; of type "button" unless it says otherwise, so that it never sends a form by accident. */
export function Button({ look, size, wide, className, type = 'button', ...rest }: ButtonProps) {
  return <button type={type} className={cn(button({ look, size, wide }), className)} {...rest} />
}
