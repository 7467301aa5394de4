package main

import (
	"context"
	"crypto/rand"
	"errors"
	"flag"
	"fmt"
	"io"
	"io/fs"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"strings"
	"syscall"
	"time"

	"ojime/internal/api"
	"ojime/internal/demo"
	"ojime/internal/device"
	"ojime/internal/store"
	"ojime/internal/work"
	"ojime/internal/work/record"
)

// Timeouts of the server. Uploads of large meshes over a slow link need
// minutes; a change stream stays open, so writing has no limit.
const (
	headerTimeout   = 10 * time.Second
	readTimeout     = 10 * time.Minute
	shutdownTimeout = 3 * time.Second
	deviceTimeout   = 10 * time.Second
)

// memoryLimit is the memory above which the program clears up eagerly; the largest
// mesh needs most of it.
const memoryLimit = 1 << 30

// gcPercent lets memory grow further between two clearings than usual, up to the limit: comparisons of hundreds of prints are
// worked out a quarter sooner.
const gcPercent = 400

type options struct {
	addr, data, size string
	readOnly, only   bool
	backups          record.Schedule
	opening          opening
	rest             []string
	now              func() time.Time
}

func parse(name string, args []string) (options, error) {
	var o options
	flags := flag.NewFlagSet("ojime "+name, flag.ContinueOnError)
	flags.StringVar(&o.addr, "addr", "127.0.0.1:8420", "host and port to listen on")
	flags.StringVar(&o.data, "data", "data", "folder of the record")
	if name == "serve" {
		flags.BoolVar(&o.readOnly, "read-only", false, "let the record be looked at and change nothing")
		flags.StringVar(&o.backups.Dir, "backup-to", "", "folder into which backups are written by themselves")
		flags.DurationVar(&o.backups.Every, "backup-every", 24*time.Hour, "how often a backup is written")
		flags.IntVar(&o.backups.Keep, "backup-keep", 7, "how many backups are kept")
	}
	if name == "serve" || name == "demo" {
		o.opening.flags(flags)
	}
	if name == "demo" {
		flags.BoolVar(&o.only, "fill-only", false, "fill the folder and stop, without serving it")
		flags.StringVar(&o.size, "size", "usual", "usual, or large: 5,000 runs over three years")
	}
	rest, err := anywhere(flags, args)
	o.rest = rest
	if err == nil {
		o.now, err = clock()
	}
	if err == nil && o.backups.Dir != "" {
		err = checkSchedule(o)
	}
	return o, err
}

// leastEvery is the least time between two backups: one takes seconds, of a large record a minute.
const leastEvery = time.Minute

// checkSchedule refuses a schedule of backups that cannot be kept.
func checkSchedule(o options) error {
	switch {
	case o.readOnly:
		return errors.New("--backup-to writes backups while the record is worked on; leave --read-only out, or use ojime backup")
	case o.backups.Every < leastEvery:
		return fmt.Errorf("--backup-every is %s; write %s or more, such as 6h", o.backups.Every, leastEvery)
	case o.backups.Keep < 1:
		return fmt.Errorf("--backup-keep is %d; keep at least one", o.backups.Keep)
	}
	return nil
}

// anywhere reads flags before and after the other arguments, as people write them.
func anywhere(flags *flag.FlagSet, args []string) (rest []string, err error) {
	for {
		if err := flags.Parse(args); err != nil {
			return nil, err
		}
		if flags.NArg() == 0 {
			return rest, nil
		}
		rest, args = append(rest, flags.Arg(0)), flags.Args()[1:]
	}
}

func serve(ctx context.Context, args []string, out io.Writer) error {
	o, err := parse("serve", args)
	if err != nil {
		return err
	}
	s, err := openOrLook(ctx, o, out)
	if err != nil {
		return err
	}
	return errors.Join(serveRecord(ctx, s, o, out), s.Close())
}

// openOrLook opens a record; one whose folder cannot be written is only looked at.
func openOrLook(ctx context.Context, o options, out io.Writer) (*store.Store, error) {
	if !o.readOnly {
		s, err := store.Open(ctx, o.data)
		if !errors.Is(err, fs.ErrPermission) && !errors.Is(err, syscall.EROFS) {
			return s, err
		}
	}
	s, err := store.Look(ctx, o.data)
	if err == nil {
		fmt.Fprintf(out, "The record in %s is open to be looked at; nothing can be changed.\n", o.data)
	}
	return s, err
}

func serveRecord(ctx context.Context, s *store.Store, o options, out io.Writer) error {
	debug.SetMemoryLimit(memoryLimit)
	debug.SetGCPercent(gcPercent)
	w := work.New(s, o.now, rand.Reader)
	if !s.ReadOnly() {
		if err := errors.Join(s.Tidy(), w.Record.Tidy(ctx), w.Photographs.Tidy(ctx)); err != nil {
			return err
		}
		giveBack, err := tempIn(s.TempDir())
		if err != nil {
			return err
		}
		defer giveBack()
		if err := errors.Join(w.Kit.Survey(ctx), w.Printing.NoteJobs(ctx)); err != nil {
			return err
		}
	}
	if o.backups.Dir != "" && !s.ReadOnly() {
		defer keepSafe(ctx, w, o.backups)()
	}
	at, conf, err := placeOf(o, out)
	if err != nil {
		return err
	}
	others := &beside{ctx: ctx, temp: s.TempDir(), now: o.now, fill: demo.Fill}
	at.Beside = &api.Beside{Bundle: others.bundle, Demo: others.showDemo}
	return errors.Join(listen(ctx, o.addr, w, at, conf, out), w.Bundle.CloseAll(context.WithoutCancel(ctx)), others.close())
}

// keepSafe writes backups by their schedule until it is stopped; what it is at is ended first.
func keepSafe(ctx context.Context, w *work.Work, s record.Schedule) (stop func()) {
	ctx, cancel := context.WithCancel(ctx)
	done := make(chan struct{})
	go func() {
		defer close(done)
		w.Record.KeepSafe(ctx, s, func(ctx context.Context, d time.Duration) error {
			select {
			case <-ctx.Done():
				return ctx.Err()
			case <-time.After(d):
				return nil
			}
		})
	}()
	return func() {
		cancel()
		<-done
	}
}

// tempIn has uploads wait within the record's folder, where the next start clears
// those that were broken off, until it is given back.
func tempIn(dir string) (giveBack func(), err error) {
	const name = "TMPDIR"
	before, was := os.LookupEnv(name)
	if err := os.Setenv(name, dir); err != nil {
		return nil, fmt.Errorf("keep uploads in %s: %w", dir, err)
	}
	return func() {
		if was {
			_ = os.Setenv(name, before) // it was set so before
		} else {
			_ = os.Unsetenv(name)
		}
	}, nil
}

// unfinished marks a demo that is being filled; one that was broken off starts over.
const unfinished = "ojime.demo-unfinished"

func demonstrate(ctx context.Context, args []string, out io.Writer) error {
	o, err := parse("demo", args)
	if err != nil {
		return err
	}
	mark := filepath.Join(o.data, unfinished)
	if _, err := os.Stat(mark); err == nil {
		if err := store.Discard(o.data); err != nil {
			return fmt.Errorf("start the demo over: %w", err)
		}
	}
	s, err := store.Open(ctx, o.data)
	if err != nil {
		return err
	}
	if err := fillMarked(ctx, s, o, mark, out); err != nil {
		return errors.Join(err, s.Close())
	}
	if o.only {
		return s.Close()
	}
	return errors.Join(serveRecord(ctx, s, o, out), s.Close())
}

// fillMarked fills an empty record, with a mark beside it until that is done.
func fillMarked(ctx context.Context, s *store.Store, o options, mark string, out io.Writer) error {
	there, err := work.New(s, o.now, rand.Reader).Kit.Machines(ctx)
	if err != nil || len(there) > 0 {
		return err
	}
	if err := os.WriteFile(mark, []byte("The demo is being filled; it starts over if that is broken off.\n"), 0o600); err != nil {
		return fmt.Errorf("mark the demo: %w", err)
	}
	if _, err := fill(ctx, s, o, out); err != nil {
		return err
	}
	fmt.Fprintln(out, "The demo record is made up: its machines, makers, resins and numbers are invented.")
	return os.Remove(mark)
}

func fill(ctx context.Context, s *store.Store, o options, out io.Writer) (bool, error) {
	switch o.size {
	case "usual":
		return demo.Fill(ctx, s, o.now())
	case "large":
		return demo.FillLarge(ctx, s, o.now(), demo.Large, func(done int) {
			if done%1000 == 0 {
				fmt.Fprintf(out, "%d of %d runs written\n", done, demo.Large.Runs)
			}
		})
	}
	return false, fmt.Errorf("size %q: write usual or large", o.size)
}

// standIn behaves like a device that is recorded already, over HTTP.
func standIn(ctx context.Context, args []string, out io.Writer) error {
	flags := flag.NewFlagSet("ojime standin", flag.ContinueOnError)
	link := device.Web{Client: &http.Client{Timeout: deviceTimeout}}
	flags.StringVar(&link.URL, "url", "http://127.0.0.1:8420", "where the program listens")
	flags.StringVar(&link.Token, "token", os.Getenv("OJIME_TOKEN"), "the device's token; better in the environment variable OJIME_TOKEN or in a file, since others see a command line")
	tokenFile := flags.String("token-file", "", "a file that holds the device's token")
	plan := device.Plan{Speed: 60}
	flags.Float64Var(&plan.Speed, "speed", 60, "how many times faster than time a printer prints")
	flags.Uint64Var(&plan.Seed, "seed", 1, "fixes where faults strike and how readings scatter")
	flags.Float64Var(&plan.Value, "value", 0, "what an instrument measures; 0 is its usual value")
	flags.DurationVar(&plan.Every, "every", 2*time.Second, "time between two readings")
	faults := flags.String("faults", "", "any of "+strings.Join(device.Faults, ",")+", with commas between them")
	if len(args) == 0 {
		return fmt.Errorf("name the kind: printer, caliper, scale or thermometer\n%s", usage)
	}
	plan.Kind = args[0]
	if err := flags.Parse(args[1:]); err != nil {
		return err
	}
	if *tokenFile != "" {
		text, err := os.ReadFile(*tokenFile)
		if err != nil {
			return fmt.Errorf("read the token: %w", err)
		}
		link.Token = strings.TrimSpace(string(text))
	}
	if *faults != "" {
		plan.Faults = strings.Split(*faults, ",")
	}
	fmt.Fprintf(out, "Stand-in %s sends to %s\n", plan.Kind, link.URL)
	return device.Run(ctx, link, device.RealClock, plan)
}

func check(ctx context.Context, args []string, out io.Writer) error {
	return lookAt(ctx, "check", args, func(s *store.Store, o options) error {
		wrong, err := work.New(s, o.now, rand.Reader).Record.Check(ctx)
		if err != nil {
			return err
		}
		for _, line := range wrong {
			fmt.Fprintln(out, line)
		}
		if len(wrong) > 0 {
			return fmt.Errorf("%d things are wrong in %s", len(wrong), o.data)
		}
		fmt.Fprintln(out, "The record is whole.")
		return nil
	})
}

func backup(ctx context.Context, args []string, out io.Writer) error {
	return lookAt(ctx, "backup", args, func(s *store.Store, o options) error {
		if len(o.rest) != 1 {
			return fmt.Errorf("name the file to write\n%s", usage)
		}
		if err := s.Backup(ctx, o.rest[0]); err != nil {
			return err
		}
		fmt.Fprintf(out, "Wrote %s, meshes included, and the keys of sealed blind panels in clear. Bring it back with: ojime restore %s --data DIR\n", o.rest[0], o.rest[0])
		return nil
	})
}

func restore(ctx context.Context, args []string, out io.Writer) error {
	o, err := parse("restore", args)
	if err != nil {
		return err
	}
	if len(o.rest) != 1 {
		return fmt.Errorf("name the backup to restore\n%s", usage)
	}
	if err := store.Restore(ctx, o.rest[0], o.data); err != nil {
		return err
	}
	fmt.Fprintf(out, "Checked %s and restored it to %s.\n", o.rest[0], o.data)
	return nil
}

// lookAt opens a record to be read only, beside whoever works on it.
func lookAt(ctx context.Context, name string, args []string, do func(*store.Store, options) error) error {
	o, err := parse(name, args)
	if err != nil {
		return err
	}
	s, err := store.Look(ctx, o.data)
	if err != nil {
		return err
	}
	return errors.Join(do(s, o), s.Close())
}
