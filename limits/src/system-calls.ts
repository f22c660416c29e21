/**
 * A filter of system calls (seccomp(2), classic BPF) for programs that only compute on files: what could reach beyond them is refused.
 * Numbers: the kernel's tables of system calls, arch/x86/entry/syscalls/syscall_64.tbl and include/uapi/asm-generic/unistd.h.
 */
interface Table {
  /** AUDIT_ARCH_* of linux/audit.h. */ audit: number;
  socket: number;
  refused: readonly number[];
}

/** The same on every architecture: clone3 (which a filter cannot look into), mounting anew, io_uring, descriptors of others. */
const NEWER = [425, 426, 427, 428, 429, 430, 431, 432, 433, 438, 442];
const CLONE3 = 435;

const TABLES: Record<string, Table> = {
  x64: {
    audit: 0xc000003e,
    socket: 41,
    // ptrace syslog personality adjtimex pivot_root chroot acct settimeofday mount umount2 swap reboot names ports modules quotactl clock_settime memory policy kexec keys vmsplice move_pages unshare perf handles setns process_vm kcmp finit bpf userfaultfd
    refused: [
      101,
      103,
      135,
      155,
      159,
      161,
      163,
      164,
      165,
      166,
      167,
      168,
      169,
      170,
      171,
      172,
      173,
      175,
      176,
      179,
      227,
      237,
      238,
      246,
      248,
      249,
      250,
      256,
      272,
      278,
      279,
      298,
      303,
      304,
      308,
      310,
      311,
      312,
      313,
      320,
      321,
      323,
      ...NEWER,
    ],
  },
  arm64: {
    audit: 0xc00000b7,
    socket: 198,
    refused: [
      117,
      116,
      92,
      41,
      171,
      51,
      89,
      170,
      40,
      39,
      224,
      225,
      142,
      161,
      162,
      105,
      106,
      60,
      112,
      235,
      237,
      104,
      217,
      218,
      219,
      238,
      97,
      75,
      239,
      241,
      264,
      265,
      268,
      270,
      271,
      272,
      273,
      294,
      280,
      282,
      ...NEWER,
    ],
  },
};

// linux/filter.h and linux/seccomp.h.
const LOAD = 0x20,
  EQUAL = 0x15,
  AT_LEAST = 0x35,
  RETURN = 0x06;
const ALLOW = 0x7fff0000,
  KILL = 0x80000000,
  ERRNO = 0x00050000;
const EPERM = 1,
  ENOSYS = 38;
/** Offsets in struct seccomp_data. */
const NUMBER = 0,
  ARCHITECTURE = 4,
  FIRST_ARGUMENT = 16;
const AF_UNIX = 1,
  X32 = 0x40000000;

/** The filter as the bytes of an array of sock_filter; null where there is no table for this processor. */
export function callFilter(architecture: string = process.arch): Uint8Array | null {
  const table = TABLES[architecture];
  if (!table) return null;
  const program: [code: number, jumpTrue: number, jumpFalse: number, value: number][] = [
    [LOAD, 0, 0, ARCHITECTURE],
    [EQUAL, 1, 0, table.audit],
    [RETURN, 0, 0, KILL],
    [LOAD, 0, 0, NUMBER],
    [AT_LEAST, 0, 1, X32],
    [RETURN, 0, 0, ERRNO | ENOSYS],
    // A caller falls back to clone, whose namespaces the others stand for.
    [EQUAL, 0, 1, CLONE3],
    [RETURN, 0, 0, ERRNO | ENOSYS],
    ...table.refused.flatMap((n): [number, number, number, number][] => [
      [EQUAL, 0, 1, n],
      [RETURN, 0, 0, ERRNO | EPERM],
    ]),
    // Sockets of this machine alone, and no address to connect them to is in sight.
    [EQUAL, 0, 3, table.socket],
    [LOAD, 0, 0, FIRST_ARGUMENT],
    [EQUAL, 1, 0, AF_UNIX],
    [RETURN, 0, 0, ERRNO | EPERM],
    [RETURN, 0, 0, ALLOW],
  ];
  const bytes = Buffer.alloc(program.length * 8);
  program.forEach(([code, yes, no, value], i) => {
    bytes.writeUInt16LE(code, i * 8);
    bytes.writeUInt8(yes, i * 8 + 2);
    bytes.writeUInt8(no, i * 8 + 3);
    bytes.writeUInt32LE(value >>> 0, i * 8 + 4);
  });
  return bytes;
}
