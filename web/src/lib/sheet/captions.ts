// The classes and the sections of the statements, with the keys that the server uses.
import type { Schemas } from '../api/client';

type Class = Schemas['Class'];
type Section = Schemas['Section'];

export const CLASSES: Class[] = ['asset', 'liability', 'equity', 'income', 'expense'];

/** What the classes are called over their totals. */
export const CLASS_TITLES: Record<Class, string> = {
  asset: 'Assets',
  liability: 'Liabilities',
  equity: 'Equity',
  income: 'Income',
  expense: 'Expense',
};

export const SECTIONS: Record<Class, [key: Section, words: string][]> = {
  asset: [
    ['cash', 'cash and cash equivalents'],
    ['receivables', 'trade and other receivables'],
    ['inventories', 'inventories'],
    ['prepayments', 'prepayments'],
    ['taxes', 'taxes'],
    ['property', 'property, plant and equipment'],
    ['intangibles', 'intangible assets'],
    ['investments', 'investments'],
  ],
  liability: [
    ['payables', 'trade and other payables'],
    ['taxes', 'taxes'],
    ['deferred_income', 'deferred income'],
    ['borrowings', 'borrowings'],
    ['provisions', 'provisions'],
  ],
  equity: [
    ['capital', 'capital and funds'],
    ['retained_earnings', 'retained earnings'],
  ],
  income: [
    ['revenue', 'revenue'],
    ['other_income', 'other income'],
  ],
  expense: [
    ['cost_of_sales', 'cost of sales'],
    ['staff', 'employee benefits'],
    ['depreciation', 'depreciation and amortisation'],
    ['administration', 'administrative expenses'],
    ['other_expense', 'other expenses'],
    ['finance_costs', 'finance costs'],
    ['income_tax', 'income tax'],
  ],
};
