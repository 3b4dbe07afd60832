import { sendFile } from '../../files/sendFile'

export default sendFile(true)
