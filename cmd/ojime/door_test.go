package main

import (
	"bufio"
	"bytes"
	"crypto/tls"
	"crypto/x509"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// Another address of the loopback stands for the network: without a passphrase it is refused; with one, and over TLS
// under the root that was made, who knows it comes in, and nobody else reads anything.
func TestTheRecordIsOpenedToANetwork(t *testing.T) {
	binary, data := build(t), emptyRecord(t)
	refused, err := exec.Command(binary, "serve", "--addr", "127.0.0.2:0", "--data", data).CombinedOutput()
	if err == nil || !strings.Contains(string(refused), "set one with: ojime passphrase") {
		t.Fatalf("%v: %s", err, refused)
	}
	const phrase = "four words on a door"
	for text, want := range map[string]string{"short": "write 12 or more", phrase: "The passphrase is set"} {
		set := exec.Command(binary, "passphrase", "--data", data)
		set.Stdin = strings.NewReader(text + "\n")
		if said, _ := set.CombinedOutput(); !strings.Contains(string(said), want) {
			t.Fatalf("%s", said)
		}
	}
	address := overTLS(t, binary, data)
	pem, err := os.ReadFile(filepath.Join(data, "door", "root.pem"))
	if err != nil {
		t.Fatal(err)
	}
	roots := x509.NewCertPool()
	roots.AppendCertsFromPEM(pem)
	client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: roots, MinVersion: tls.VersionTLS12}}}
	ask := func(method, path, body string, with ...*http.Cookie) (*http.Response, string) {
		t.Helper()
		req, err := http.NewRequest(method, address+path, strings.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("Content-Type", "application/json")
		for _, c := range with {
			req.AddCookie(c)
		}
		res, err := client.Do(req)
		if err != nil {
			t.Fatal(err)
		}
		text, err := io.ReadAll(res.Body)
		if err != nil || res.Body.Close() != nil {
			t.Fatal(err)
		}
		return res, string(text)
	}
	if res, text := ask("GET", "/api/v1/machines", ""); res.StatusCode != http.StatusUnauthorized {
		t.Errorf("%d %s", res.StatusCode, text)
	}
	res, text := ask("POST", "/api/v1/door/sessions", `{"passphrase":"`+phrase+`"}`)
	cookies := res.Cookies()
	if res.StatusCode != http.StatusOK || len(cookies) != 1 || !cookies[0].Secure || cookies[0].Name != "__Host-ojime" || !strings.Contains(text, `"secure":true`) {
		t.Fatalf("%d %s %v", res.StatusCode, text, cookies)
	}
	if res, text := ask("GET", "/api/v1/machines", "", cookies[0]); res.StatusCode != http.StatusOK {
		t.Errorf("%d %s", res.StatusCode, text)
	}
	if res, _ := ask("GET", "/api/v1/door/root.crt", ""); res.Header.Get("Content-Type") != "application/x-x509-ca-cert" || res.StatusCode != http.StatusOK {
		t.Errorf("the root: %d %v", res.StatusCode, res.Header)
	}
	// The page is asked for before anybody is in; where it is not built yet, that is said.
	if res, text := ask("GET", "/", ""); res.StatusCode == http.StatusUnauthorized || strings.Contains(text, phrase) || res.Header.Get("Strict-Transport-Security") != "" {
		t.Errorf("the page: %d %v", res.StatusCode, res.Header)
	}
}

// overTLS starts the program on another address of the loopback, and gives it once it is said.
func overTLS(t *testing.T, binary, data string) string {
	t.Helper()
	cmd := exec.Command(binary, "serve", "--addr", "127.0.0.2:0", "--tls", "--data", data)
	var errs bytes.Buffer
	cmd.Stderr = &errs
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = cmd.Process.Kill() }) // it may be gone already
	fingerprint := false
	for said := bufio.NewScanner(out); said.Scan(); {
		fingerprint = fingerprint || strings.Contains(said.Text(), "fingerprint of the certificate")
		if _, address, found := strings.Cut(said.Text(), "https://"); found {
			if !fingerprint {
				t.Error("it says no fingerprint to compare")
			}
			return "https://" + strings.TrimSpace(address)
		}
	}
	t.Fatalf("the program ended before it said its address: %s", errs.String())
	return ""
}
