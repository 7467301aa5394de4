// Command ojime serves the reviewer's bench book.
package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"os/signal"
	"syscall"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := run(ctx, os.Args[1:], os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, "ojime:", err)
		os.Exit(1)
	}
}

const usage = `usage:
  ojime serve  --addr HOST:PORT --data DIR   serve the record in DIR
               --addr 192.168.…:8420        opened to a network, behind the passphrase,
               --host NAME,NAME             under further names,
               --tls                        encrypted, with a certificate made here, or with
               --tls-cert FILE --tls-key FILE
               --backup-to DIR              also back up into DIR by itself, checked each time,
               --backup-every 24h           so often,
               --backup-keep 7              and keep so many
  ojime demo   --addr HOST:PORT --data DIR   fill an empty DIR with the demo record, then serve it
               --fill-only                  fill it and stop
               --size large                 with 5,000 runs instead, to try it at length
  ojime standin KIND --token-file FILE       behave like a printer, caliper, scale or thermometer
  ojime passphrase --data DIR                set what is asked for before a network is let in
  ojime check   --data DIR                   check the database, its entries and what it refers to
  ojime backup  --data DIR FILE              write a copy of the whole record, meshes too, to FILE
  ojime restore --data DIR FILE              check a backup and restore it to an empty DIR`

func run(ctx context.Context, args []string, out io.Writer) error {
	if len(args) == 0 {
		return fmt.Errorf("no command\n%s", usage)
	}
	command, known := map[string]func(context.Context, []string, io.Writer) error{
		"serve": serve, "demo": demonstrate, "check": check, "backup": backup, "restore": restore, "standin": standIn, "passphrase": passphrase,
	}[args[0]]
	if !known {
		return fmt.Errorf("no command %q\n%s", args[0], usage)
	}
	return command(ctx, args[1:], out)
}
