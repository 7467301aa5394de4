package door

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// How long certificates hold: the root as long as a phone is in use, the server's as long as browsers take one.
const (
	rootLasts   = 10 * 365 * 24 * time.Hour
	serverLasts = 390 * 24 * time.Hour
	renewBefore = 30 * 24 * time.Hour
	rootFile    = "root.pem"
	rootKeyFile = "root-key.pem"
)

// Certificate is what a server shows, with the root that a phone can install and the fingerprints to compare.
type Certificate struct {
	TLS tls.Certificate
	// RootDER is the self-made root, nil where the owner brought a certificate.
	RootDER     []byte
	Fingerprint string
}

// OwnCertificate reads a certificate that the owner brought.
func OwnCertificate(certFile, keyFile string) (Certificate, error) {
	pair, err := tls.LoadX509KeyPair(certFile, keyFile)
	if err != nil {
		return Certificate{}, fmt.Errorf("read the certificate: %w", err)
	}
	return Certificate{TLS: pair, Fingerprint: fingerprint(pair.Certificate[0])}, nil
}

// SelfMade makes a certificate for the names and addresses of this machine under a root of its own, which is kept:
// a phone that has installed it trusts the next one too. The root can vouch for nothing but these names.
func (d *Door) SelfMade(hosts []string) (Certificate, error) {
	root, key, err := d.root(hosts)
	if err != nil {
		return Certificate{}, err
	}
	serverKey, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return Certificate{}, fmt.Errorf("make a key: %w", err)
	}
	template, err := d.template("Ojime", serverLasts)
	if err != nil {
		return Certificate{}, err
	}
	template.KeyUsage, template.ExtKeyUsage = x509.KeyUsageDigitalSignature, []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}
	template.DNSNames, template.IPAddresses = split(hosts)
	der, err := x509.CreateCertificate(rand.Reader, template, root, &serverKey.PublicKey, key)
	if err != nil {
		return Certificate{}, fmt.Errorf("make a certificate: %w", err)
	}
	return Certificate{TLS: tls.Certificate{Certificate: [][]byte{der, root.Raw}, PrivateKey: serverKey}, RootDER: root.Raw, Fingerprint: fingerprint(root.Raw)}, nil
}

// root reads the root that was made before, where it still vouches for these names, or makes another.
func (d *Door) root(hosts []string) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	root, key, err := d.readRoot()
	if err == nil && vouches(root, hosts) && d.now().Add(serverLasts+renewBefore).Before(root.NotAfter) {
		return root, key, nil
	}
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, nil, err
	}
	if key, err = ecdsa.GenerateKey(elliptic.P256(), rand.Reader); err != nil {
		return nil, nil, fmt.Errorf("make a key: %w", err)
	}
	template, err := d.template("Ojime of "+strings.Join(hosts, ", "), rootLasts)
	if err != nil {
		return nil, nil, err
	}
	template.IsCA, template.BasicConstraintsValid, template.MaxPathLenZero = true, true, true
	template.KeyUsage = x509.KeyUsageCertSign | x509.KeyUsageDigitalSignature
	names, addresses := split(hosts)
	template.PermittedDNSDomainsCritical, template.PermittedDNSDomains = true, append(names, "ojime.invalid") // an empty list would permit all names
	for _, ip := range addresses {
		bits := 8 * len(ip)
		template.PermittedIPRanges = append(template.PermittedIPRanges, &net.IPNet{IP: ip, Mask: net.CIDRMask(bits, bits)})
	}
	der, err := x509.CreateCertificate(rand.Reader, template, template, &key.PublicKey, key)
	if err != nil {
		return nil, nil, fmt.Errorf("make a root certificate: %w", err)
	}
	if root, err = x509.ParseCertificate(der); err != nil {
		return nil, nil, fmt.Errorf("read the root certificate: %w", err)
	}
	return root, key, d.keepRoot(der, key)
}

func (d *Door) template(name string, lasts time.Duration) (*x509.Certificate, error) {
	serial, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120))
	if err != nil {
		return nil, fmt.Errorf("draw a number for a certificate: %w", err)
	}
	at := d.now()
	return &x509.Certificate{SerialNumber: serial, Subject: pkix.Name{CommonName: name}, NotBefore: at.Add(-time.Hour), NotAfter: at.Add(lasts)}, nil
}

func (d *Door) keepRoot(der []byte, key *ecdsa.PrivateKey) error {
	private, err := x509.MarshalECPrivateKey(key)
	if err != nil {
		return fmt.Errorf("keep the root certificate: %w", err)
	}
	return errors.Join(os.WriteFile(filepath.Join(d.dir, rootKeyFile), pem.EncodeToMemory(&pem.Block{Type: "EC PRIVATE KEY", Bytes: private}), fileMode),
		os.WriteFile(filepath.Join(d.dir, rootFile), pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), fileMode))
}

func (d *Door) readRoot() (*x509.Certificate, *ecdsa.PrivateKey, error) {
	read := func(name string) ([]byte, error) {
		data, err := os.ReadFile(filepath.Join(d.dir, name))
		if err != nil {
			return nil, err
		}
		block, _ := pem.Decode(data)
		if block == nil {
			return nil, fmt.Errorf("read %s: it is cut off; take it away, and a new one is made", name)
		}
		return block.Bytes, nil
	}
	der, err := read(rootFile)
	if err != nil {
		return nil, nil, err
	}
	private, err := read(rootKeyFile)
	if err != nil {
		return nil, nil, err
	}
	root, err := x509.ParseCertificate(der)
	if err != nil {
		return nil, nil, fmt.Errorf("read the root certificate: %w", err)
	}
	key, err := x509.ParseECPrivateKey(private)
	if err != nil {
		return nil, nil, fmt.Errorf("read the key of the root certificate: %w", err)
	}
	return root, key, nil
}

// vouches reports a root that permits every one of these names and addresses.
func vouches(root *x509.Certificate, hosts []string) bool {
	names, addresses := split(hosts)
	for _, name := range names {
		if !slices.Contains(root.PermittedDNSDomains, name) {
			return false
		}
	}
	for _, ip := range addresses {
		if !slices.ContainsFunc(root.PermittedIPRanges, func(n *net.IPNet) bool { return n.Contains(ip) }) {
			return false
		}
	}
	return true
}

// split parts hosts into names and addresses.
func split(hosts []string) (names []string, addresses []net.IP) {
	for _, h := range hosts {
		if ip := net.ParseIP(h); ip == nil {
			names = append(names, h)
		} else if four := ip.To4(); four != nil {
			addresses = append(addresses, four)
		} else {
			addresses = append(addresses, ip)
		}
	}
	return names, addresses
}

// fingerprint is the SHA-256 of a certificate as phones and browsers show it.
func fingerprint(der []byte) string {
	sum := sha256.Sum256(der)
	parts := make([]string, len(sum))
	for i, b := range sum {
		parts[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(parts, ":")
}
