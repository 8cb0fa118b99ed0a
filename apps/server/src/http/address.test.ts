import { addressBehind, networksOf } from './address'

const trusted = networksOf('127.0.0.1, 10.0.0.0/8 ::1')

test.each([
  ['203.0.113.7', '', '203.0.113.7'],
  // Nobody asked this one to speak for others.
  ['203.0.113.7', '198.51.100.1', '203.0.113.7'],
  ['127.0.0.1', '198.51.100.1', '198.51.100.1'],
  ['::ffff:127.0.0.1', '198.51.100.1', '198.51.100.1'],
  // What a stranger wrote before the first honest hop counts for nothing.
  ['10.1.2.3', '1.2.3.4, 198.51.100.1, 10.9.9.9', '198.51.100.1'],
  ['127.0.0.1', '', '127.0.0.1'],
  ['2001:db8:1:2:3:4:5:6', '', '2001:db8:1:2::/64'],
  ['2001:db8::6', '', '2001:db8:0:0::/64'],
  ['127.0.0.1', 'by the harbour', 'by the harbour'],
])('%s with “%s” is %s', (socket, forwarded, address) => expect(addressBehind(socket, forwarded, trusted)).toBe(address))

test('what is no network is refused when the server starts', () => expect(() => networksOf('everybody')).toThrow('everybody'))
