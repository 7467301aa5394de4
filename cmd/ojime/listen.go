package main

import (
	"bufio"
	"context"
	"crypto/tls"
	"errors"
	"flag"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"slices"
	"strings"
	"time"

	"golang.org/x/term"

	"ojime/internal/api"
	"ojime/internal/api/ui"
	"ojime/internal/door"
	"ojime/internal/work"
)

// opening is how the program is opened to a network.
type opening struct {
	hosts     string
	cert, key string
	selfMade  bool
}

func (o *opening) flags(flags *flag.FlagSet) {
	flags.StringVar(&o.hosts, "host", "", "names under which it answers to a network, with commas between")
	flags.StringVar(&o.cert, "tls-cert", "", "file of a certificate to serve with")
	flags.StringVar(&o.key, "tls-key", "", "file of its key")
	flags.BoolVar(&o.selfMade, "tls", false, "serve over TLS with a certificate made here")
}

// placeOf says under which names the program answers, and puts a door before it where others can reach it.
func placeOf(o options, out io.Writer) (at api.Place, conf *tls.Config, err error) {
	host, _, err := net.SplitHostPort(o.addr)
	if err != nil {
		return at, nil, fmt.Errorf("address %q: write HOST:PORT, such as 127.0.0.1:8420: %w", o.addr, err)
	}
	for name := range strings.SplitSeq(o.opening.hosts, ",") {
		if name = strings.TrimSpace(name); name != "" {
			at.Hosts = append(at.Hosts, name)
		}
	}
	if ip := net.ParseIP(host); ip != nil && ip.IsUnspecified() {
		at.Hosts = append(at.Hosts, ownAddresses()...)
	} else if host != "" {
		at.Hosts = append(at.Hosts, host)
	}
	if onlyHere(host) && o.opening == (opening{}) {
		return at, nil, nil
	}
	d, err := door.Open(o.data, time.Now)
	if err != nil {
		return at, nil, err
	}
	if !onlyHere(host) {
		if !d.Set() {
			return at, nil, fmt.Errorf("address %q would open the record to the network without a passphrase; set one with: ojime passphrase --data %s", o.addr, o.data)
		}
		at.Door = d
	}
	made, secure, err := certificate(o.opening, d, at.Hosts)
	if err != nil || !secure {
		return at, nil, err
	}
	at.Secure, at.RootDER, at.Fingerprint = true, made.RootDER, made.Fingerprint
	fmt.Fprintf(out, "SHA-256 fingerprint of the certificate to compare: %s\n", made.Fingerprint)
	return at, &tls.Config{Certificates: []tls.Certificate{made.TLS}, MinVersion: tls.VersionTLS12}, nil
}

func certificate(o opening, d *door.Door, hosts []string) (made door.Certificate, secure bool, err error) {
	switch {
	case o.cert != "" && o.key != "":
		made, err = door.OwnCertificate(o.cert, o.key)
	case o.cert != "" || o.key != "":
		return made, false, errors.New("--tls-cert and --tls-key go together; name both files")
	case o.selfMade:
		names := append([]string{"127.0.0.1", "localhost"}, hosts...)
		slices.Sort(names)
		made, err = d.SelfMade(slices.Compact(names))
	default:
		return made, false, nil
	}
	return made, true, err
}

// ownAddresses are those of this machine in the networks that it is in.
func ownAddresses() (out []string) {
	all, err := net.InterfaceAddrs()
	if err != nil {
		return nil
	}
	for _, a := range all {
		if n, is := a.(*net.IPNet); is && !n.IP.IsLinkLocalUnicast() {
			out = append(out, n.IP.String())
		}
	}
	return out
}

// onlyHere reports an address that nobody else reaches. Other addresses of the loopback count as a network: so the
// door can be tried on one machine.
func onlyHere(host string) bool {
	return host == "localhost" || host == "127.0.0.1" || host == "::1"
}

// listen serves until the context ends.
func listen(ctx context.Context, addr string, w *work.Work, at api.Place, conf *tls.Config, out io.Writer) error {
	l, err := net.Listen("tcp", addr)
	if err != nil {
		return fmt.Errorf("listen on %s: %w", addr, err)
	}
	scheme := "http"
	if conf != nil {
		l, scheme = tls.NewListener(l, conf), "https"
	}
	server := &http.Server{
		Handler:           api.New(ctx, w, ui.Files(), at),
		ReadHeaderTimeout: headerTimeout, ReadTimeout: readTimeout,
		BaseContext: func(net.Listener) context.Context { return ctx },
	}
	fmt.Fprintf(out, "Ojime is at %s://%s\n", scheme, l.Addr())
	if at.Door != nil && conf == nil {
		fmt.Fprintln(out, "It is open to the network without encryption: whoever is in that network can read along. Serve it with --tls where you do not trust it.")
	}
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

// passphrase sets the passphrase of a record, asked for twice at a terminal, or read as one line of what is piped
// in. Every session ends.
func passphrase(_ context.Context, args []string, out io.Writer) error {
	o, err := parse("passphrase", args)
	if err != nil {
		return err
	}
	d, err := door.Open(o.data, time.Now)
	if err != nil {
		return err
	}
	text, err := askFor(out)
	if err != nil {
		return err
	}
	if err := d.SetPassphrase(text); err != nil {
		return err
	}
	fmt.Fprintln(out, "The passphrase is set, and every session has ended. A program that serves the record now must be started anew.")
	return nil
}

func askFor(out io.Writer) (string, error) {
	in := int(os.Stdin.Fd())
	if !term.IsTerminal(in) {
		line, err := bufio.NewReader(os.Stdin).ReadString('\n')
		if err != nil && !errors.Is(err, io.EOF) {
			return "", fmt.Errorf("read the passphrase: %w", err)
		}
		return strings.TrimRight(line, "\r\n"), nil
	}
	fmt.Fprint(out, "Passphrase, such as four words: ")
	first, err := term.ReadPassword(in)
	if err != nil {
		return "", fmt.Errorf("read the passphrase: %w", err)
	}
	fmt.Fprint(out, "\nOnce more: ")
	again, err := term.ReadPassword(in)
	fmt.Fprintln(out)
	if err != nil {
		return "", fmt.Errorf("read the passphrase: %w", err)
	}
	if string(first) != string(again) {
		return "", errors.New("the two differ; nothing was set")
	}
	return string(first), nil
}
