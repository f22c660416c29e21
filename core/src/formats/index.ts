export { FIRST_FORM, FORM, formOf, NewerForm } from './form.ts';
export { upgradeChange, upgradeEntity } from './upgrade.ts';
