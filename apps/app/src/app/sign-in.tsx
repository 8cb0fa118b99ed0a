import { SignIn } from '../features/session/sign-in'

export default SignIn
