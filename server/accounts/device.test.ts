import { deviceName } from './sessions';

test.each([
  ['Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Safari/537.36', 'Chrome, Linux, computer'],
  ['Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:140.0) Gecko/20100101 Firefox/140.0', 'Firefox, Windows, computer'],
  ['Mozilla/5.0 (Linux; Android 15; Mobile) AppleWebKit/537.36 Chrome/156.0.0.0 Mobile Safari/537.36', 'Chrome, Android, phone'],
  ['Mozilla/5.0 (iPad; CPU OS 18_0 like Mac OS X) AppleWebKit/605.1.15 Version/18.0 Safari/604.1', 'Safari, iOS, tablet'],
  ['', 'browser, device'],
  ['<script>alert(1)</script>', 'browser, device'],
])('%s', (agent, said) => expect(deviceName(agent)).toBe(said));
