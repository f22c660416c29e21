/** What came of attacks: each that did not end as it must is said at once. */
export class Report {
  private passed = 0;
  private readonly failures: string[] = [];

  check(name: string, fault: string | null): void {
    if (fault === null) this.passed++;
    else {
      this.failures.push(name);
      console.log(`  ✘ ${name}: ${fault}`);
    }
  }

  /** Counts as the whole test counts them. */
  end(): number {
    console.log(`\nattacks: ${this.passed} passed, ${this.failures.length} failed`);
    return this.failures.length;
  }
}
