package main

import (
	"context"
	"crypto/rand"
	"errors"
	"flag"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"time"

	"ojime/internal/api"
	"ojime/internal/api/ui"
	"ojime/internal/demo"
	"ojime/internal/device"
	"ojime/internal/store"
	"ojime/internal/work"
)

// Timeouts of the server. Uploads of large meshes over a slow link need
// minutes; a change stream stays open, so writing has no limit.
const (
	headerTimeout   = 10 * time.Second
	readTimeout     = 10 * time.Minute
	shutdownTimeout = 3 * time.Second
	deviceTimeout   = 10 * time.Second
)

type options struct {
	addr, data, size string
	rest             []string
}

func parse(name string, args []string) (options, error) {
	var o options
	flags := flag.NewFlagSet("ojime "+name, flag.ContinueOnError)
	flags.StringVar(&o.addr, "addr", "127.0.0.1:8420", "host and port to listen on")
	flags.StringVar(&o.data, "data", "data", "folder of the record")
	if name == "demo" {
		flags.StringVar(&o.size, "size", "usual", "usual, or large: 5,000 runs over three years")
	}
	err := flags.Parse(args)
	o.rest = flags.Args()
	return o, err
}

func serve(ctx context.Context, args []string, out io.Writer) error {
	return withRecord(ctx, "serve", args, func(s *store.Store, o options) error {
		if err := work.New(s, time.Now, rand.Reader).Survey(ctx); err != nil {
			return err
		}
		return listen(ctx, o.addr, s, out)
	})
}

func demonstrate(ctx context.Context, args []string, out io.Writer) error {
	return withRecord(ctx, "demo", args, func(s *store.Store, o options) error {
		filled, err := fill(ctx, s, o.size, out)
		if err != nil {
			return err
		}
		if filled {
			fmt.Fprintln(out, "The demo record is made up: its machines, makers, resins and numbers are invented.")
		}
		if err := work.New(s, time.Now, rand.Reader).Survey(ctx); err != nil {
			return err
		}
		return listen(ctx, o.addr, s, out)
	})
}

func fill(ctx context.Context, s *store.Store, size string, out io.Writer) (bool, error) {
	switch size {
	case "usual":
		return demo.Fill(ctx, s, time.Now())
	case "large":
		return demo.FillLarge(ctx, s, time.Now(), demo.Large, func(done int) {
			if done%1000 == 0 {
				fmt.Fprintf(out, "%d of %d runs written\n", done, demo.Large.Runs)
			}
		})
	}
	return false, fmt.Errorf("size %q: write usual or large", size)
}

// standIn behaves like a device that is recorded already, over HTTP.
func standIn(ctx context.Context, args []string, out io.Writer) error {
	flags := flag.NewFlagSet("ojime standin", flag.ContinueOnError)
	link := device.Web{Client: &http.Client{Timeout: deviceTimeout}}
	flags.StringVar(&link.URL, "url", "http://127.0.0.1:8420", "where the program listens")
	flags.StringVar(&link.Token, "token", "", "the device's token")
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
	if *faults != "" {
		plan.Faults = strings.Split(*faults, ",")
	}
	fmt.Fprintf(out, "Stand-in %s sends to %s\n", plan.Kind, link.URL)
	return device.Run(ctx, link, device.RealClock, plan)
}

func check(ctx context.Context, args []string, out io.Writer) error {
	return withRecord(ctx, "check", args, func(s *store.Store, o options) error {
		wrong, err := work.New(s, time.Now, rand.Reader).Check(ctx)
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
	return withRecord(ctx, "backup", args, func(s *store.Store, o options) error {
		if len(o.rest) != 1 {
			return fmt.Errorf("name the file to write\n%s", usage)
		}
		if err := s.Backup(ctx, o.rest[0]); err != nil {
			return err
		}
		fmt.Fprintf(out, "Wrote %s. Mesh files are not in it: keep the meshes folder beside it.\n", o.rest[0])
		return nil
	})
}

func withRecord(ctx context.Context, name string, args []string, do func(*store.Store, options) error) error {
	o, err := parse(name, args)
	if err != nil {
		return err
	}
	s, err := store.Open(ctx, o.data)
	if err != nil {
		return err
	}
	return errors.Join(do(s, o), s.Close())
}

// listen serves until the context ends. Any address but this machine's own is
// refused: there is no passphrase yet to keep others out.
func listen(ctx context.Context, addr string, s *store.Store, out io.Writer) error {
	if err := onlyHere(addr); err != nil {
		return err
	}
	l, err := net.Listen("tcp", addr)
	if err != nil {
		return fmt.Errorf("listen on %s: %w", addr, err)
	}
	server := &http.Server{
		Handler:           api.New(ctx, work.New(s, time.Now, rand.Reader), ui.Files()),
		ReadHeaderTimeout: headerTimeout, ReadTimeout: readTimeout,
		BaseContext: func(net.Listener) context.Context { return ctx },
	}
	fmt.Fprintf(out, "Ojime is at http://%s\n", l.Addr())
	done := make(chan error, 1)
	go func() { done <- server.Serve(l) }()
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	end, cancel := context.WithTimeout(context.WithoutCancel(ctx), shutdownTimeout)
	defer cancel()
	if err := server.Shutdown(end); err != nil && !errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	return nil
}

func onlyHere(addr string) error {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return fmt.Errorf("address %q: write HOST:PORT, such as 127.0.0.1:8420: %w", addr, err)
	}
	if ip := net.ParseIP(host); host == "localhost" || (ip != nil && ip.IsLoopback()) {
		return nil
	}
	return fmt.Errorf("address %q would open the record to the network without a passphrase; listen on 127.0.0.1", addr)
}
